import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from 'react';
import { ENDPOINTS, type AudienceChoice } from '@carafe/contract';
import type { CheckFinding } from '@carafe/core/checks';
import { coverageOf, type Coverage } from '@carafe/core/variant';
import { ask, messageOf } from '../../../app/ask';
import { useLive } from '../../../app/live';
import { useDeskState } from '../../../app/store';
import { surveyAll, type SurveySoFar } from '../../../parts/mails/surveyAll';

/** An edit is waited for to end before everybody is filled anew. */
const PAUSE_MS = 700;

/** What the checks said, and what each of them holds. */
export interface Checked {
  findings: readonly CheckFinding[];
  labels: Readonly<Record<string, string>>;
}

export interface Everyone {
  open: boolean;
  setOpen: (open: boolean) => void;
  audience: AudienceChoice;
  setAudience: (audience: AudienceChoice) => void;
  soFar: SurveySoFar | null;
  coverage: Coverage | null;
  /** Where all were looked at, and the template is as it was then: also once nobody looks any more. */
  whole: Coverage | null;
  checked: Checked | null;
  problem: string | null;
  start: () => void;
  stop: () => void;
}

const NOTHING: Everyone = {
  ...{ open: false, audience: { of: 'reads' }, soFar: null, coverage: null },
  ...{ whole: null, checked: null },
  ...{ problem: null, setOpen: () => undefined, setAudience: () => undefined },
  ...{ start: () => undefined, stop: () => undefined },
};
const EveryoneContext = createContext<Everyone>(NOTHING);

export const useEveryone = (): Everyone => useContext(EveryoneContext);

/** Fills the template for everybody that it is for, a piece at a time, while somebody looks; an edit starts it anew. */
function useSurvey(active: boolean, audience: AudienceChoice) {
  const { template, id } = useDeskState('template', 'id');
  const [soFar, setSoFar] = useState<SurveySoFar | null>(null);
  const [checked, setChecked] = useState<Checked | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const turn = useRef(0);
  const stop = useCallback(() => {
    turn.current++;
    setSoFar((now) => now && { ...now, running: false });
  }, []);
  const start = useCallback(async () => {
    if (!template) return;
    const mine = ++turn.current;
    const isMine = () => turn.current === mine;
    setProblem(null);
    const { shop } = template;
    try {
      const survey = await surveyAll(template, audience, (soFar) => {
        if (isMine()) setSoFar(soFar);
        return isMine();
      });
      if (!survey) return;
      const answer = await ask(ENDPOINTS.checkTemplate, {
        params: { shop },
        body: { template, survey, ...(id !== null && { template_id: id }) },
      });
      if (isMine()) setChecked(answer);
    } catch (error) {
      if (!isMine()) return;
      setProblem(messageOf(error));
      setSoFar((now) => now && { ...now, running: false });
    }
  }, [template, id, audience]);
  useEffect(() => {
    if (!active) return;
    const later = setTimeout(() => void start(), soFar === null ? 0 : PAUSE_MS);
    return () => {
      clearTimeout(later);
      // eslint-disable-next-line react-hooks/exhaustive-deps -- whatever turn it is then has ended
      turn.current++;
    };
    // What was found so far starts nothing.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [active, start]);
  useLive((update) => {
    if (update.type !== 'shared' && update.type !== 'people') return;
    if (active) void start();
    else setSoFar(null);
  });
  const latest = useRef(start);
  useEffect(() => {
    latest.current = start;
  });
  const begin = useCallback(() => void latest.current(), []);
  return { soFar, checked, problem, start: begin, stop };
}

/** What everybody gets, for the panel that tells of it and the outline that marks what nobody sees. */
export function EveryoneProvider({ children }: { children: ReactNode }) {
  const [open, setOpen] = useState(false);
  const [audience, setAudience] = useState<AudienceChoice>({ of: 'reads' });
  const { soFar, checked, problem, start, stop } = useSurvey(open, audience);
  const coverage = useMemo(() => (soFar ? coverageOf(soFar.of, soFar.survey) : null), [soFar]);
  const { template } = useDeskState('template');
  const isWhole = soFar !== null && soFar.of === template && soFar.looked === soFar.people;
  const value = useMemo(
    (): Everyone => ({
      ...{ open, setOpen, audience, setAudience, soFar, checked, problem, start, stop },
      coverage: open ? coverage : null,
      whole: isWhole ? coverage : null,
    }),
    [open, audience, soFar, checked, problem, start, stop, coverage, isWhole],
  );
  return <EveryoneContext value={value}>{children}</EveryoneContext>;
}
