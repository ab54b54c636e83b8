import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

// A built server with the demo data, to be killed at random moments.
const root = resolve(import.meta.dirname, '..');
const NOW = '2026-11-24T09:00:00Z';

export const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** Chance that comes out the same each time: numbers from 0 to 1. */
export function chanceFrom(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) >>> 0;
    return state / 4_294_967_296;
  };
}

export function killable(port: number) {
  const data = mkdtempSync(join(tmpdir(), 'carafe-kills-'));
  const origin = `http://127.0.0.1:${port}`;
  let server: ChildProcess | null = null;
  return {
    data,
    async start(): Promise<void> {
      const started = spawn(process.execPath, ['server/dist/main.js'], {
        cwd: root,
        env: { ...process.env, PORT: String(port), CARAFE_DATA: data, CARAFE_NOW: NOW },
      });
      server = started;
      await new Promise<void>((done, failed) => {
        started.stdout.on(
          'data',
          (text: Buffer) => String(text).includes('Carafe is at') && done(),
        );
        started.on('exit', (code) => failed(new Error(`The server stopped with ${code}.`)));
      });
    },
    kill: () =>
      new Promise<void>((done) => {
        server?.once('exit', () => done());
        server?.kill('SIGKILL');
      }),
    async api<T>(method: string, path: string, body?: unknown): Promise<T> {
      const answer = await fetch(`${origin}/api${path}`, {
        method,
        headers: { 'content-type': 'application/json' },
        ...(body !== undefined && { body: JSON.stringify(body) }),
      });
      const told: unknown = answer.status === 204 ? null : await answer.json();
      if (!answer.ok) throw new Error(`${method} ${path}: ${JSON.stringify(told)}`);
      return told as T;
    },
  };
}
export type Killable = ReturnType<typeof killable>;

const SHOP = 'quillmoss-gb';

/** Adds an occasion by hand, switched on, that sends one service email; gives its id. So many people at once are meant. */
export async function occasionByHand({ api }: Killable, mode: 'on' | 'held'): Promise<string> {
  const { rules_version } = await api<{ rules_version: string }>('GET', `/shops/${SHOP}/occasions`);
  await api('PUT', `/shops/${SHOP}/mail-rules?version=${rules_version}`, {
    ...{ quiet_minutes: 60, give_up_days: 30, most_a_day: 0, most_a_week: 0, one_cause: 'all' },
    most_an_hour: 10_000_000,
  });
  const { templates } = await api<{ templates: { id: string; name: string }[] }>(
    'GET',
    '/templates',
  );
  const template = templates.find(({ name }) => name === 'Welcome: your first parcel')?.id ?? '';
  const occasion = await api<{ id: string; version: number }>('POST', `/shops/${SHOP}/occasions`, {
    ...{ name: 'Kills', start: { kind: 'by_hand' }, whom: { guests: true }, priority: 5 },
    steps: [{ id: 'a', kind: 'send', template, mail: 'service', mode, to: 'person' }],
  });
  await api('POST', `/occasions/${occasion.id}/publish`, { version: occasion.version });
  return occasion.id;
}
