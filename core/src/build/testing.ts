import type { Fields } from '../formula';
import { prepare, type PrepareOptions } from '../render';
import type { Template } from '../template';
import { build } from './build';

export type Given = Fields;

/** A recipient of whom nothing is known. */
export const contextless: Given = {};

/** Builds a template and fills it for one record, for tests. */
export async function mailOf(template: Template, record: Given, options: PrepareOptions = {}) {
  const { program, findings } = await build(template);
  const asOf = new Date('2026-11-24T09:00:00Z');
  return { findings, program, ...prepare(program, options)(record, { asOf }) };
}
