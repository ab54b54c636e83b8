import { eventEndpoints } from './events';
import { importEndpoints } from './imports';
import { renderEndpoints } from './render';
import { shopEndpoints } from './shops';
import { sourceEndpoints } from './sources';
import { systemEndpoints } from './system';
import { templateEndpoints } from './templates';

/** Everything that can be asked of the server, by name. */
export const ENDPOINTS = {
  ...templateEndpoints,
  ...renderEndpoints,
  ...shopEndpoints,
  ...sourceEndpoints,
  ...importEndpoints,
  ...eventEndpoints,
  ...systemEndpoints,
};

export * from './endpoint';
export * from './errors';
export * from './events';
export * from './imports';
export * from './live';
export { openApiDocument } from './openApi';
export * from './render';
export * from './shops';
export * from './sources';
export * from './system';
export * from './templates';
