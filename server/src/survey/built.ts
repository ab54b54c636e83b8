import { build, type BuildOptions, type Built } from '@carafe/core/build';
import type { Template } from '@carafe/core/template';
import { LruCache } from '../database/lruCache';

const known = new LruCache<Built>();

/** Builds a template, once for all the pieces of an audience that a thread fills it for. */
export const builtOf = (template: Template, options: BuildOptions = {}): Promise<Built> =>
  known.get(JSON.stringify([template, options]), () => build(template, options));
