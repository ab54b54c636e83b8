import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from './carafe';
import { copyOf } from './desk';

const folder = mkdtempSync(join(tmpdir(), 'carafe-cli-'));
const template = join(folder, 't.json');
const records = join(folder, 'r.ndjson');

function carafe(args: string[], input = '') {
  return spawnSync(
    process.execPath,
    [join(import.meta.dirname, '..', 'server', 'bin', 'carafe.mjs'), ...args],
    { input, encoding: 'utf8' },
  );
}

test.beforeAll(async ({ request }) => {
  const stored = await copyOf(
    request,
    'You left these on the potting bench',
    'For the command line',
  );
  writeFileSync(template, JSON.stringify(stored.template));
  const record = (name: string) =>
    JSON.stringify({
      person: { first_name: name },
      shop: { currency: 'GBP' },
      cart: { total: 60, count: 1, lines: [{ name: 'Pot', price: 60, quantity: 1 }] },
    });
  writeFileSync(records, [record('ada'), 'no json', '', record('bo')].join('\n'));
});

test('fills a template for every record as NDJSON; lines that are no JSON are told and left out', () => {
  const { stdout, stderr, status } = carafe([
    'render',
    '--template',
    template,
    '--records',
    records,
  ]);
  const mails = stdout
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as { subject: string; html: string; text: string });
  expect(mails.map((mail) => mail.subject)).toEqual([
    'Ada, your Pot is still here',
    'Bo, your Pot is still here',
  ]);
  expect(mails[0]?.text).toContain('1 × Pot — £60.00');
  expect(stderr).toContain('Line 2 is not JSON');
  expect(stderr).toContain('2 emails, 1 line gave no email');
  expect(status).toBe(1);
});

test('reads standard input, prints in another language, and writes files', () => {
  const [first = ''] = readFileSync(records, 'utf8').split('\n');
  const out = join(folder, 'out');
  const { status } = carafe(
    [
      'render',
      '--template',
      template,
      '--records',
      '-',
      '--out',
      out,
      '--locale',
      'de-DE',
      '--as-of',
      '2026-03-31',
    ],
    `${first}\n`,
  );
  expect(status).toBe(0);
  expect(readdirSync(out)).toEqual(['000001.html', '000001.json', '000001.txt']);
  expect(readFileSync(join(out, '000001.txt'), 'utf8')).toContain('60,00\u00a0£');
});

test('a mail that would be cut off is told with its place and left out', () => {
  const often = join(folder, 'often.json');
  const { sections, ...rest } = JSON.parse(readFileSync(template, 'utf8')) as {
    sections: object[];
  };
  const loop = { list: 'person.often', as: 'one' };
  const document = { ...rest, sections: sections.map((one) => ({ ...one, loop })) };
  writeFileSync(often, JSON.stringify(document));
  const lines = [1, 20_001].map((n) => JSON.stringify({ person: { often: Array(n).fill(1) } }));
  const args = ['render', '--template', often, '--records', '-'];
  const { stdout, stderr, status } = carafe(args, lines.join('\n'));
  expect(stdout.trim().split('\n')).toHaveLength(1);
  expect(stderr).toMatch(
    /Line 2: This email is cut off at “.+”: an email can have at most .* It is left out\./,
  );
  expect(stderr).toContain('1 email, 1 line gave no email');
  expect(status).toBe(1);
});

test('says in a sentence what it cannot use', () => {
  for (const [args, says] of [
    [
      ['render', '--template', '/nowhere.json', '--records', records],
      'There is no file /nowhere.json.',
    ],
    [['render', '--template', template, '--records', '/nowhere'], 'There is no file /nowhere.'],
    [['render', '--template', records, '--records', records], 'not JSON'],
    [
      ['render', '--template', template, '--records', records, '--as-of', 'soon'],
      '--as-of must be an ISO date',
    ],
  ] as const) {
    const { stderr, status } = carafe([...args]);
    expect([status, stderr]).toEqual([2, expect.stringContaining(says)]);
    expect(stderr).not.toContain('    at ');
  }
});

test('prints what a rule picks, for addresses or for everybody, and says what is not there', ({
  home,
}) => {
  const data = ['--data', home.data];
  const asked = carafe(
    ['picks', '--rule', 'beside_cart', '--people', '-', ...data],
    'Maud.Fennimore1@post.example\n\nnobody@post.example\n',
  );
  expect(asked.stderr).toBe('');
  const lines = asked.stdout
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as { person: string; picks: { reason: string }[] });
  expect(lines.map(({ person }) => person)).toEqual([
    'maud.fennimore1@post.example',
    'nobody@post.example',
  ]);
  expect(lines[0]?.picks[0]?.reason).toMatch(/^Goes with your /);
  // Of whom nothing is known, the last step says something.
  expect(lines[1]?.picks).toHaveLength(4);
  const all = carafe(['picks', '--rule', 'due_again', ...data]);
  expect(all.stdout.trim().split('\n').length).toBeGreaterThan(1_200);
  const none = carafe(['picks', '--rule', 'nope', ...data]);
  expect([none.status, none.stderr.trim()]).toEqual([2, 'There is no rule “nope”.']);
});

test('checks a template over records, and says what it found in three forms', () => {
  const broken = join(folder, 'broken.json');
  const given = JSON.parse(readFileSync(template, 'utf8')) as { envelope: { subject: string } };
  given.envelope.subject = '';
  writeFileSync(broken, JSON.stringify(given));
  const asked = ['check', '--template', broken, '--records', records];
  const text = carafe(asked);
  expect(text.stdout).toContain('error: Envelope: The subject is blank for all 2 people.');
  expect(text.stderr).toContain('Line 2 is not JSON');
  expect(text.status).toBe(1);
  const json = JSON.parse(carafe([...asked, '--format', 'json']).stdout) as {
    people: number;
    findings: { check: string }[];
  };
  expect(json.people).toBe(2);
  expect(json.findings.map(({ check }) => check)).toContain('subject_blank');
  const sarif = JSON.parse(carafe([...asked, '--format', 'sarif']).stdout) as {
    version: string;
    runs: { results: { ruleId: string; level: string }[] }[];
  };
  expect(sarif.version).toBe('2.1.0');
  expect(sarif.runs[0]?.results).toContainEqual(
    expect.objectContaining({ ruleId: 'subject_blank', level: 'error' }),
  );
  const wrong = carafe([...asked, '--format', 'xml']);
  expect(wrong.stderr).toContain('--format must be text, json or sarif, not “xml”.');
  expect(wrong.status).toBe(2);
});

test('tells the different mails that records come to', () => {
  const { stdout } = carafe(['variants', '--template', template, '--records', records]);
  expect(stdout).toContain('2  The usual in every part (line 1)');
});

test('what is given wrongly is told in a sentence, and is not taken for a mail with errors', () => {
  const { status, stderr } = carafe(['check', '--template', folder, '--records', records]);
  expect([status, stderr]).toEqual([2, `${folder} is a folder; name a file in it.\n`]);
  const unread = carafe(['variants', '--template', template, '--records', folder]);
  expect([unread.status, unread.stderr]).toEqual([
    2,
    `${folder} is a folder; name a file in it.\n`,
  ]);
  const out = carafe(['render', '--template', template, '--records', records, '--out', template]);
  expect([out.status, out.stderr]).toEqual([
    2,
    `The folder ${template} cannot be made: a file is in its place.\n`,
  ]);
  const inside = join(template, 'mails');
  const below = carafe(['render', '--template', template, '--records', records, '--out', inside]);
  expect(below.stderr).toBe(`The folder ${inside} cannot be made: a file is in its place.\n`);
  expect(carafe(['check']).status).toBe(2);
  expect(carafe(['nothing']).status).toBe(2);
  expect(carafe(['--help']).status).toBe(0);
});
