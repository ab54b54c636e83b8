import { attentionEndpoints } from './attention';
import { deletedEndpoints } from './deleted';
import { eventEndpoints } from './events';
import { importEndpoints } from './imports';
import { libraryEndpoints } from './library';
import { mailEndpoints } from './mail';
import { occasionEndpoints } from './occasions';
import { outboxEndpoints } from './outbox';
import { pictureEndpoints } from './pictures';
import { publishingEndpoints } from './publishing';
import { renderEndpoints } from './render';
import { ruleEndpoints } from './rules';
import { shopEndpoints } from './shops';
import { sourceEndpoints } from './sources';
import { surveyEndpoints } from './survey';
import { systemEndpoints } from './system';
import { templateEndpoints } from './templates';

/** Everything that can be asked of the server, by name. */
export const ENDPOINTS = {
  ...templateEndpoints,
  ...renderEndpoints,
  ...shopEndpoints,
  ...sourceEndpoints,
  ...importEndpoints,
  ...deletedEndpoints,
  ...eventEndpoints,
  ...libraryEndpoints,
  ...pictureEndpoints,
  ...ruleEndpoints,
  ...mailEndpoints,
  ...publishingEndpoints,
  ...occasionEndpoints,
  ...outboxEndpoints,
  ...attentionEndpoints,
  ...surveyEndpoints,
  ...systemEndpoints,
};

export * from './attention';
export * from './deleted';
export * from './endpoint';
export * from './errors';
export * from './events';
export * from './imports';
export * from './library';
export * from './live';
export * from './mail';
export * from './occasions';
export { openApiDocument } from './openApi';
export * from './outbox';
export * from './pictures';
export * from './publishing';
export * from './render';
export * from './rules';
export * from './shops';
export * from './sources';
export * from './survey';
export * from './system';
export * from './templates';
