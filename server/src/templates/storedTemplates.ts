import { readTemplate, type Template } from '@carafe/core/template';
import { DocumentReader, firstProblem } from '../database/storedDocument';

/** Reads templates as they are stored: drafts and published versions. */
export const storedTemplates = new DocumentReader<Template>('template', (value) => {
  const read = readTemplate(value);
  if (read.ok) return { ok: true, document: read.template };
  return { ok: false, reason: firstProblem(read.problems) };
});
