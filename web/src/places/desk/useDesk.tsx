import {
  createContext,
  startTransition,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from 'react';
import { ENDPOINTS } from '@carafe/contract';
import type { SiteFinding } from '@carafe/core/check';
import { compile, evaluate, parsedFormula, printValue, type Fields } from '@carafe/core/formula';
import {
  EMPTY_LIBRARY,
  OWN,
  ownValues as namedValues,
  type ShopLibrary,
} from '@carafe/core/library';
import { reviveRecord, sharedRecord, type SharedData } from '@carafe/core/record';
import { contextFor, type Trail } from '@carafe/core/render';
import type { Shape } from '@carafe/core/shape';
import type { BuildFinding } from '@carafe/core/build';
import { elseOwners } from '@carafe/core/template';
import { ask, messageOf } from '../../app/ask';
import { useLive } from '../../app/live';
import { store, useAppDispatch, useAppSelector, useDeskState } from '../../app/store';
import { movedNow, useMoved } from '../../app/useNow';
import { OwnValueProvider, type OwnValue } from '../../parts/ownValue';
import { deskActions, type DeskState, type View } from './deskSlice';
import type { Filled, FromWorker, Shown, ToWorker } from './worker/messages';
import { useShape } from './useShape';
import { askRecipients } from './recipientPages';
import { useFindings, type DeskFinding } from './useFindings';
import { takeWorker, type Started } from './worker/spare';

const AHEAD = 20;

/** Shows a filled mail at once, before anything else learns of it. */
export type Painter = (filled: Filled) => void;

/** What the desk knows beside the template itself. */
export interface DeskInfo {
  filled: Filled | null;
  trail: Trail;
  findings: DeskFinding[];
  /** Of the mail that is shown, in bytes. */
  weight: number | null;
  shape: Shape;
  /** Does what needs the shape: now, or as soon as it comes. */
  whenShaped: (work: (shape: Shape) => void) => void;
  /** The record of the recipient shown, for samples and values on the page. */
  record: Fields | null;
  /** Whose record that is. */
  person: number | undefined;
  asOf: Date;
  problem: string | null;
  setPainter: (paint: Painter | null) => void;
}

const DeskContext = createContext<DeskInfo | null>(null);

export function useDesk(): DeskInfo {
  const data = useContext(DeskContext);
  if (!data) throw new Error('useDesk is for what stands inside a DeskProvider.');
  return data;
}

function useWorker(onMessage: (message: FromWorker) => void): (message: ToWorker) => void {
  const taken = useRef<Started | null>(null);
  const handler = useRef(onMessage);
  handler.current = onMessage;
  const ensure = useCallback(() => {
    if (!taken.current) {
      taken.current = takeWorker();
      const { worker, said } = taken.current;
      worker.onmessage = ({ data }: MessageEvent<FromWorker>) => handler.current(data);
      said.forEach((message) => handler.current(message));
    }
    return taken.current;
  }, []);
  useEffect(
    () => () => {
      taken.current?.worker.terminate();
      taken.current = null;
    },
    [],
  );
  return useCallback(
    (message: ToWorker) => {
      const one = ensure();
      // The template may have gone ahead; every later one is told.
      const isTold = message.type === 'template' && message.template === one.told;
      if (message.type === 'template') one.told = null;
      if (!isTold) one.worker.postMessage(message);
    },
    [ensure],
  );
}

/** The list of recipients, a page at a time; a new question starts over. */
function useRecipients(
  shop: string | undefined,
  peopleTurn: number,
  onProblem: (m: string) => void,
) {
  const dispatch = useAppDispatch();
  const { recipients, total, index, reached, search, having, filter, guests } = useDeskState(
    'recipients',
    'total',
    'index',
    'reached',
    'search',
    'having',
    'filter',
    'guests',
  );
  const question = JSON.stringify([shop, having, search, filter, peopleTurn]);
  const listedFor = useRef('');
  const more =
    recipients.length > 0 &&
    recipients.length - guests < total &&
    Math.max(index, reached) + AHEAD >= recipients.length;
  useEffect(() => {
    if (!shop) return;
    const isNew = listedFor.current !== question;
    if (!isNew && !more) return;
    listedFor.current = question;
    const offset = isNew ? 0 : recipients.length - guests;
    askRecipients(shop, { filter, having, search }, offset)
      .then((list) => {
        if (listedFor.current === question) dispatch(deskActions.listed({ ...list, offset }));
      })
      .catch((error: unknown) => onProblem(messageOf(error)));
  }, [
    shop,
    having,
    search,
    filter,
    question,
    more,
    recipients.length,
    guests,
    dispatch,
    onProblem,
  ]);
}

/** What paths give for the recipient shown; those of loops' members are not known here. */
/** What belongs to the shop: the desk has of it what the mail reads. */
const LENT = new Set(['catalog', 'feeds', 'picks']);

function ownValues(record: Fields | null, asOf: Date): OwnValue {
  if (!record) return () => undefined;
  const context = contextFor(record, { asOf });
  return (path) => {
    const parsed = parsedFormula(path);
    const root = /^(?:[a-z]+\()?([\p{L}_][\p{L}\d_]*)/u.exec(path)?.[1] ?? '';
    if (!parsed.ok || !Object.hasOwn(record, root)) return undefined;
    const value = evaluate(compile(parsed.value), context);
    // What the desk was not given, since the mail does not read it, is not known to be blank.
    if (value === undefined && LENT.has(root)) return undefined;
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    return Array.isArray(value) ? undefined : printValue(value, context);
  };
}

/** The record with what the shop's named formulas give for it. */
function withOwn(record: Fields, { formulas }: ShopLibrary, asOf: Date): Fields {
  if (formulas.length === 0) return record;
  const valueOf = (formula: string) => {
    const parsed = parsedFormula(formula);
    return parsed.ok ? evaluate(compile(parsed.value), contextFor(record, { asOf })) : undefined;
  };
  return { ...record, [OWN]: namedValues(formulas, valueOf) };
}

/** So long may values of the last recipient stand beside the mail while the next one's is filled, in milliseconds. */
const SETTLE_MS = 150;

/**
 * Whose values the desk tells. It follows the list with the painted mail: whoever tells values is drawn anew
 * once, then, and not with the key's press as well. A mail that takes long is not waited for.
 */
function useSettled(person: number | undefined) {
  const [settled, setSettled] = useState(person);
  useEffect(() => {
    const late = setTimeout(() => setSettled(person), SETTLE_MS);
    return () => clearTimeout(late);
  }, [person]);
  return [settled, setSettled] as const;
}

/** When mails are filled as of: what was chosen, else when the desk was opened. */
const asOfView = ({ asOf }: View, openedAt: Date): Date => (asOf ? new Date(asOf) : openedAt);

/** Who is shown, and who is near in the list. */
function shownOf({ recipients, index, view }: DeskState, openedAt: Date): Shown | null {
  const person = recipients[index]?.id;
  if (person === undefined) return null;
  const near = recipients.slice(Math.max(0, index - AHEAD), index + AHEAD + 1).map((r) => r.id);
  const asOf = asOfView(view, openedAt).toISOString();
  return { person, near, asOf, isChosen: view.asOf !== '' };
}

/** The selection, where it stands in an else. */
const peekOf = ({ template, selected }: DeskState): string | null =>
  template && selected && elseOwners(template, selected).length > 0 ? selected : null;

/** Tells the worker of a change as it happens: the mail is filled while the page is drawn. */
function useTelling(send: (message: ToWorker) => void, openedAt: Date): void {
  useEffect(() => {
    let told: Partial<DeskState> = {};
    const tell = () => {
      const { desk } = store.getState();
      const { template, recipients, index, view } = desk;
      const before = told;
      told = { template, recipients, index, view };
      if (template && template !== before.template) send({ type: 'template', template });
      const isSame =
        recipients === before.recipients && index === before.index && view === before.view;
      if (!isSame) send({ type: 'show', shown: shownOf(desk, openedAt) });
    };
    tell();
    return store.subscribe(tell);
  }, [send, openedAt]);
}

/** Tells the worker what is wanted, and gives what it knows to the desk. */
export function DeskProvider({ children }: { children: ReactNode }) {
  const dispatch = useAppDispatch();
  const shop = useAppSelector((s) => s.desk.template?.shop);
  const view = useAppSelector((s) => s.desk.view);
  const person = useAppSelector((s) => s.desk.recipients[s.desk.index]?.id);
  const [filled, setFilled] = useState<Filled | null>(null);
  const [settled, setSettled] = useSettled(person);
  const [checked, setChecked] = useState<SiteFinding[]>([]);
  const [built, setBuilt] = useState<BuildFinding[]>([]);
  const { shape, shapeCame, whenShaped } = useShape();
  const [shared, setShared] = useState<SharedData | null>(null);
  const [library, setLibrary] = useState<ShopLibrary>(EMPTY_LIBRARY);
  const [problem, setProblem] = useState<string | null>(null);
  const [peopleTurn, setPeopleTurn] = useState(0);
  // The desk shows the moment it was opened at, by the server’s clock, which can be moved on.
  const moved = useMoved();
  const openedAt = useMemo(() => movedNow(moved), [moved]);
  const asOf = useMemo(() => asOfView(view, openedAt), [view, openedAt]);
  const painter = useRef<Painter | null>(null);
  const setPainter = useCallback((paint: Painter | null) => {
    painter.current = paint;
  }, []);
  const now = useRef({ shop, person });
  now.current = { shop, person };

  /** Some people changed in the shop: the list of recipients shows it. */
  const changedInShop = (ids: number[]) => {
    if (!now.current.shop) return;
    if (ids.length === 0) {
      setPeopleTurn((n) => n + 1);
      return;
    }
    const asked = { params: { shop: now.current.shop }, query: { ids: ids.join(',') } };
    ask(ENDPOINTS.someRecipients, asked)
      .then(({ recipients: changed }) => dispatch(deskActions.changedInShop(changed)))
      .catch((error: unknown) => setProblem(messageOf(error)));
  };
  const send = useWorker((message) => {
    switch (message.type) {
      case 'filled':
        if (message.filled.person !== now.current.person) return;
        // The mail first; what is said about it follows when there is time.
        painter.current?.(message.filled);
        startTransition(() => {
          setFilled(message.filled);
          setSettled(message.filled.person);
        });
        return;
      case 'shared':
        setLibrary(message.library);
        return setShared(reviveRecord(message.shared) as SharedData);
      case 'shape':
        return shapeCame(message.shape);
      case 'checked':
        return setChecked(message.findings);
      case 'built':
        return setBuilt(message.findings);
      case 'people':
        return changedInShop(message.ids);
      case 'problem':
        return setProblem(message.message);
    }
  });
  useTelling(send, openedAt);
  const peek = useAppSelector((s) => peekOf(s.desk));
  useEffect(() => send({ type: 'peek', node: peek }), [peek, send]);
  useLive((update) => send({ type: 'live', update }));
  useRecipients(shop, peopleTurn, setProblem);

  const { weight, findings } = useFindings(checked, built, filled);
  const own = filled?.person === settled ? filled?.own : undefined;
  const record = useMemo(
    () =>
      own && shared
        ? withOwn({ ...(reviveRecord(own) as Fields), ...sharedRecord(shared) }, library, asOf)
        : null,
    [own, shared, library, asOf],
  );
  const value = useMemo(
    (): DeskInfo => ({
      filled,
      trail: filled?.trail ?? [],
      findings,
      weight,
      shape,
      whenShaped,
      record,
      person: settled,
      asOf,
      problem,
      setPainter,
    }),
    [filled, findings, weight, shape, whenShaped, record, settled, asOf, problem, setPainter],
  );
  const ownValue = useMemo(() => ownValues(record, asOf), [record, asOf]);
  return (
    <DeskContext value={value}>
      <OwnValueProvider value={ownValue}>{children}</OwnValueProvider>
    </DeskContext>
  );
}
