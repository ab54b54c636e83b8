import { useEffect, useState } from 'react';
import { ENDPOINTS } from '@carafe/contract';
import type { Template } from '@carafe/core/template';
import { ask, messageOf } from '../../app/ask';

/** A mail as one person gets it. */
export interface FilledDraft {
  subject: string;
  preview_text: string;
  from: string;
  html: string;
  text: string;
}

const kept = new WeakMap<Template, Map<string, Promise<FilledDraft>>>();

/**
 * Fills a template for a person; once for each version of it. With bounds, comments tell where each part of the mail
 * begins and ends.
 */
export function filledDraft(
  template: Template,
  person: number,
  bounds = false,
): Promise<FilledDraft> {
  const own = kept.get(template) ?? new Map<string, Promise<FilledDraft>>();
  kept.set(template, own);
  const key = `${person} ${bounds}`;
  const known = own.get(key);
  if (known) return known;
  const asked = ask(ENDPOINTS.fillDraft, {
    params: { shop: template.shop },
    body: { template, person, ...(bounds && { bounds }) },
  });
  own.set(key, asked);
  asked.catch(() => own.delete(key));
  return asked;
}

export function useFilledDraft(template: Template, person: number, bounds = false) {
  const [mail, setMail] = useState<FilledDraft | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    setProblem(null);
    filledDraft(template, person, bounds)
      .then((filled) => current && setMail(filled))
      .catch((error: unknown) => current && setProblem(messageOf(error)));
    return () => {
      current = false;
    };
  }, [template, person, bounds]);
  return { mail, problem };
}
