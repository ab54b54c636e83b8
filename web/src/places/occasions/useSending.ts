import { useEffect, useState } from 'react';
import { ENDPOINTS } from '@carafe/contract';
import type { CheckFinding } from '@carafe/core/checks';
import type { Template } from '@carafe/core/template';
import { mostDifferent, type VariantFigure } from '@carafe/core/variant';
import { ask, messageOf } from '../../app/ask';
import { surveyAll, type SurveySoFar } from '../../parts/mails/surveyAll';

/** So many mails are shown before a mail to many goes. */
const SAMPLES = 10;

/** What goes out, as far as it was looked at. */
export interface SendingSoFar {
  template: Template;
  soFar: SurveySoFar;
  /** Mails as different as possible: of the first people at once, in the end of everybody. */
  samples: readonly VariantFigure[];
  /** Null until everybody was looked at. */
  findings: readonly CheckFinding[] | null;
}

/** Fills what an occasion sends for everybody that it is for, a piece at a time, as long as somebody looks. */
export function useSending(id: string) {
  const [sending, setSending] = useState<SendingSoFar | null>(null);
  const [isNothing, setIsNothing] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    const isWanted = () => current;
    const look = async () => {
      const found = await ask(ENDPOINTS.beforeSending, { params: { id } });
      if (!isWanted()) return;
      if (!found.sending) return setIsNothing(true);
      const { template, template_id } = found.sending;
      const survey = await surveyAll(template, { of: 'occasion', occasion: id }, (soFar) => {
        if (!isWanted()) return false;
        const differing = () => mostDifferent(soFar.survey.variants, SAMPLES);
        setSending((before) => ({
          ...{ template, soFar, findings: null },
          samples: before && soFar.running ? before.samples : differing(),
        }));
        return true;
      });
      if (!survey) return;
      const { findings } = await ask(ENDPOINTS.checkTemplate, {
        params: { shop: template.shop },
        body: { template, survey, template_id },
      });
      if (isWanted()) setSending((before) => before && { ...before, findings });
    };
    look().catch((error: unknown) => isWanted() && setProblem(messageOf(error)));
    return () => {
      current = false;
    };
  }, [id]);
  return { sending, isNothing, problem };
}
