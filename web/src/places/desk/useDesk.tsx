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
import type { TemplateFinding } from '@carafe/core/check';
import { isRecord, type Fields } from '@carafe/core/formula';
import {
  assembleRecord,
  productIndex,
  reviveRecord,
  type PersonData,
  type World,
} from '@carafe/core/record';
import type { Trail } from '@carafe/core/render';
import type { Shape } from '@carafe/core/shape';
import type { BuildFinding } from '@carafe/core/build';
import { api, messageOf } from '../../app/api';
import { useLive } from '../../app/live';
import { useAppDispatch, useAppSelector } from '../../app/store';
import { deskActions } from './deskSlice';
import { useCatalogs } from './useCatalogs';
import type { Filled, FromWorker, ToWorker } from './fill.worker';

const PAGE = 200;
const AHEAD = 20;
const CHECK_AFTER_MS = 150;

/** What is wrong somewhere in the template, for the interface. */
export interface DeskFinding {
  severity: 'error' | 'warning' | 'hint';
  node: string;
  path: string;
  message: string;
  repair?: { says: string; text: string; start: number; end: number };
}

/** Shows a filled mail at once, before anything else learns of it. */
export type Painter = (filled: Filled) => void;

/** What the desk knows beside the template itself. */
export interface DeskData {
  filled: Filled | null;
  trail: Trail;
  findings: DeskFinding[];
  shape: Shape;
  /** The record of the recipient shown, for samples and values on the page. */
  record: Fields | null;
  asOf: Date;
  problem: string | null;
  setPainter: (paint: Painter | null) => void;
}

const DeskContext = createContext<DeskData | null>(null);

export function useDesk(): DeskData {
  const data = useContext(DeskContext);
  if (!data) throw new Error('useDesk is for what stands inside a DeskProvider.');
  return data;
}

function joinFindings(checked: TemplateFinding[], built: BuildFinding[]): DeskFinding[] {
  const fromCheck = checked.map(
    ({ severity, node, path, message, repair, start, end }): DeskFinding => ({
      severity,
      node,
      path,
      message,
      ...(repair && { repair: { ...repair, start, end } }),
    }),
  );
  const known = new Set(fromCheck.map((f) => `${f.node} ${f.message}`));
  // Both find what does not parse; a designer needs it once.
  return [...fromCheck, ...built.filter((f) => !known.has(`${f.node} ${f.message}`))];
}

function useWorker(onMessage: (message: FromWorker) => void): (message: ToWorker) => void {
  const worker = useRef<Worker | null>(null);
  const handler = useRef(onMessage);
  handler.current = onMessage;
  const ensure = useCallback(() => {
    if (!worker.current) {
      worker.current = new Worker(new URL('./fill.worker.ts', import.meta.url), { type: 'module' });
      worker.current.onmessage = ({ data }: MessageEvent<FromWorker>) => handler.current(data);
    }
    return worker.current;
  }, []);
  useEffect(
    () => () => {
      worker.current?.terminate();
      worker.current = null;
    },
    [],
  );
  return useCallback((message: ToWorker) => ensure().postMessage(message), [ensure]);
}

/** Loads the data of the template's shop, builds after every edit, and has mails filled in a worker. */
export function DeskProvider({ children }: { children: ReactNode }) {
  const dispatch = useAppDispatch();
  const template = useAppSelector((s) => s.desk.template);
  const { recipients, total, index, search, having, view } = useAppSelector((s) => s.desk);
  const shop = template?.shop;
  const person = recipients[index]?.id;
  const [filled, setFilled] = useState<Filled | null>(null);
  const [checked, setChecked] = useState<TemplateFinding[]>([]);
  const [built, setBuilt] = useState<BuildFinding[]>([]);
  const [shape, setShape] = useState<Shape>({ kind: 'any' });
  const [world, setWorld] = useState<World | null>(null);
  const [people, setPeople] = useState<ReadonlyMap<number, PersonData>>(new Map());
  const [programs, setPrograms] = useState(0);
  const [problem, setProblem] = useState<string | null>(null);
  /** Products of lines whose catalog the template does not read. */
  const [beside, setBeside] = useState<Fields[]>([]);
  const catalogs = useCatalogs(template, shape);
  const [worldTurn, setWorldTurn] = useState(0);
  const [peopleTurn, setPeopleTurn] = useState(0);
  const turn = useRef(0);
  const [openedAt] = useState(() => new Date());
  const asOf = useMemo(
    () => (view.asOf ? new Date(`${view.asOf}T09:00:00Z`) : openedAt),
    [view.asOf, openedAt],
  );

  const painter = useRef<Painter | null>(null);
  const send = useWorker((message) => {
    if (message.type === 'checked') setChecked(message.findings);
    else if (message.filled.turn === turn.current) {
      // The mail first; what is said about it follows when there is time.
      painter.current?.(message.filled);
      startTransition(() => setFilled(message.filled));
    }
  });
  const setPainter = useCallback((paint: Painter | null) => {
    painter.current = paint;
  }, []);

  const take = useCallback(
    (got: Awaited<ReturnType<typeof api.people>>) => {
      send({ type: 'people', ...got });
      setPeople((known) => new Map([...known, ...got.people.map((p) => [p.id, p.data] as const)]));
      if (got.products.length > 0)
        setBeside((known) => [...known, ...got.products.map((p) => reviveRecord(p) as Fields)]);
    },
    [send],
  );

  useEffect(() => {
    if (!shop) return undefined;
    let current = true;
    setPeople(new Map());
    setBeside([]);
    const failed = (error: unknown) => current && setProblem(messageOf(error));
    // The mail needs the world only; what is said about fields may come later.
    api
      .world(shop, catalogs)
      .then((json) => {
        if (!current) return;
        send({ type: 'world', world: json });
        setWorld(reviveRecord(json) as World);
      })
      .catch(failed);
    api
      .shape(shop)
      .then((found) => {
        if (!current) return;
        send({ type: 'shape', shape: found });
        setShape(found);
      })
      .catch(failed);
    return () => {
      current = false;
    };
  }, [shop, catalogs, send, worldTurn]);

  // What changes in the shop while the desk is open: a cart, a person, a catalog.
  useLive((news) => {
    if (!shop || (news.type !== 'people' && news.type !== 'world')) return;
    if (news.shop !== null && news.shop !== shop) return;
    if (news.type === 'world') setWorldTurn((n) => n + 1);
    else if (news.ids.length === 0 || news.ids.length > PAGE) setPeopleTurn((n) => n + 1);
    else
      Promise.all([api.people(shop, news.ids), api.someRecipients(shop, news.ids)])
        .then(([got, { recipients: changed }]) => {
          take(got);
          dispatch(deskActions.changedInShop(changed));
        })
        .catch((error: unknown) => setProblem(messageOf(error)));
  });

  // The list of recipients, a page at a time; a new question starts over.
  const question = `${shop ?? ''} ${having} ${search} ${peopleTurn}`;
  const listedFor = useRef('');
  const more =
    recipients.length > 0 && recipients.length < total && index + AHEAD >= recipients.length;
  useEffect(() => {
    if (!shop) return;
    const isNew = listedFor.current !== question;
    if (!isNew && !more) return;
    listedFor.current = question;
    const offset = isNew ? 0 : recipients.length;
    api
      .recipients(shop, having, search, offset, PAGE)
      .then((list) => {
        if (listedFor.current === question) dispatch(deskActions.listed({ ...list, offset }));
      })
      .catch((error: unknown) => setProblem(messageOf(error)));
  }, [shop, having, search, question, more, recipients.length, dispatch]);

  // The data of the recipients around the one shown, so that flipping asks no server.
  const asked = useRef(new Set<number>());
  useEffect(() => asked.current.clear(), [shop, catalogs, worldTurn, peopleTurn]);
  useEffect(() => {
    if (!shop || !world) return;
    const ids = recipients
      .slice(Math.max(0, index - AHEAD), index + AHEAD + 1)
      .map((r) => r.id)
      .filter((id) => !asked.current.has(id));
    const missing = person !== undefined && ids.includes(person);
    if (ids.length === 0 || (!missing && ids.length < AHEAD / 2)) return;
    ids.forEach((id) => asked.current.add(id));
    api
      .people(shop, ids)
      .then(take)
      .catch((error: unknown) => {
        ids.forEach((id) => asked.current.delete(id));
        setProblem(messageOf(error));
      });
  }, [shop, world, recipients, index, person, take, peopleTurn]);

  // One build at a time; when it is done the latest edit is built, those in between are not.
  const building = useRef(false);
  const latest = useRef(template);
  latest.current = template;
  const buildLatest = useCallback(async () => {
    if (building.current) return;
    building.current = true;
    try {
      for (let done = null; latest.current && done !== latest.current;) {
        done = latest.current;
        const { program, findings } = await api.build(done);
        send({ type: 'program', program });
        setBuilt(findings);
        setPrograms((n) => n + 1);
        setProblem(null);
      }
    } catch (error) {
      setProblem(messageOf(error));
    } finally {
      building.current = false;
    }
  }, [send]);
  useEffect(() => {
    if (template) void buildLatest();
  }, [template, buildLatest]);
  // Checking waits for a pause in typing: the worker fills first.
  useEffect(() => {
    if (!template || shape.kind !== 'record') return undefined;
    const timer = setTimeout(() => send({ type: 'check', template }), CHECK_AFTER_MS);
    return () => clearTimeout(timer);
  }, [template, shape, send]);

  const shown = person === undefined ? undefined : people.get(person);
  const ready = shown !== undefined && world !== null && programs > 0;
  useEffect(() => {
    if (!ready || person === undefined) return;
    turn.current++;
    send({ type: 'fill', person, asOf: asOf.toISOString(), turn: turn.current });
  }, [ready, person, shown, programs, asOf, send]);

  const products = useMemo(() => (world ? productIndex(world, beside) : null), [world, beside]);
  const record = useMemo(() => {
    const data = person === undefined ? undefined : people.get(person);
    if (!data || !world || !products) return null;
    const found = assembleRecord(data, world, products);
    return isRecord(found) ? found : null;
  }, [person, people, world, products]);

  const findings = useMemo(() => joinFindings(checked, built), [checked, built]);
  const value = useMemo(
    (): DeskData => ({
      filled,
      trail: filled?.trail ?? [],
      findings,
      shape,
      record,
      asOf,
      problem,
      setPainter,
    }),
    [filled, findings, shape, record, asOf, problem, setPainter],
  );
  return <DeskContext value={value}>{children}</DeskContext>;
}
