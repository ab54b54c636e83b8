import { useEffect, useState } from 'react';
import { ENDPOINTS } from '@carafe/contract';
import type { Template } from '@carafe/core/template';
import { ask, messageOf } from '../../../app/ask';

/** A mail as one person gets it. */
export interface FilledDraft {
  subject: string;
  preview_text: string;
  from: string;
  html: string;
  text: string;
}

const kept = new WeakMap<Template, Map<number, Promise<FilledDraft>>>();

/** Fills a template for a person; once for each version of it. */
export function filledDraft(template: Template, person: number): Promise<FilledDraft> {
  const own = kept.get(template) ?? new Map<number, Promise<FilledDraft>>();
  kept.set(template, own);
  const known = own.get(person);
  if (known) return known;
  const asked = ask(ENDPOINTS.fillDraft, {
    params: { shop: template.shop },
    body: { template, person },
  });
  own.set(person, asked);
  asked.catch(() => own.delete(person));
  return asked;
}

export function useFilledDraft(template: Template, person: number) {
  const [mail, setMail] = useState<FilledDraft | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    setProblem(null);
    filledDraft(template, person)
      .then((filled) => current && setMail(filled))
      .catch((error: unknown) => current && setProblem(messageOf(error)));
    return () => {
      current = false;
    };
  }, [template, person]);
  return { mail, problem };
}
