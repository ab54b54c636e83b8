import { mkdirSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { build } from '@carafe/core/build';
import {
  blankTemplate,
  composer,
  countedIds,
  newBlock,
  type BlockKind,
} from '@carafe/core/template';
import { benchBrowser } from './browser';
import { benchFill } from './fill';
import { alone, benchIntake } from './intake';
import { percentiles } from './measure';
import type { OccasionsResult } from './occasions';
import type { SurveyResult } from './survey';
import type { RecommendResult } from './recommend';

const KINDS: BlockKind[] = [
  'heading',
  'text',
  'picture',
  'button',
  'cards',
  'lines',
  'totals',
  'divider',
  'text',
  'spacer',
];

/** Builds a template of 20 blocks again and again, in milliseconds. */
async function benchBuild() {
  const newId = countedIds();
  const c = composer(newId);
  const blocks = [...KINDS, ...KINDS].map((kind) => newBlock(kind, newId));
  const template = blankTemplate(
    'Twenty',
    'shop',
    [0, 5, 10, 15].map((at) => c.section('S', blocks.slice(at, at + 5))),
  );
  const times: number[] = [];
  for (let i = 0; i < 60; i++) {
    const start = performance.now();
    await build(template);
    times.push(performance.now() - start);
  }
  return percentiles(times.slice(10));
}

const fill = await benchFill();
const building = await benchBuild();
const intake = await benchIntake();
const picks = alone<RecommendResult>('recommend');
const occasions = alone<OccasionsResult>('occasions');
const surveys = alone<SurveyResult[]>('survey');
const browser = process.argv.includes('--no-browser') ? null : await benchBrowser();

const ms = (value: number) => `${value.toFixed(1)} ms`;
const rows: [string, string, string][] = [
  ...Object.entries(fill.microseconds).map(([name, time]): [string, string, string] => [
    `fill ${(fill.bytes / 1024).toFixed(1)} KB: ${name}`,
    `${time.toFixed(1)} µs`,
    name === 'Carafe' ? '' : `Carafe is ${(fill.carafeAgainst[name] ?? 0).toFixed(2)} × as fast`,
  ]),
  ['build 20 blocks', ms(building.median), `95th percentile ${ms(building.p95)} (target 60)`],
];
const seconds = (milliseconds: number) => `${(milliseconds / 1000).toFixed(2)} s`;
const { catalogs, events } = intake;
rows.push(
  ...catalogs.flatMap(({ read, imported, times, megabytes }): [string, string, string][] => [
    ['read a CSV of 100,000 rows with csv-parse alone', seconds(read), ''],
    [
      'import it: checked, stored, fill rates told',
      seconds(imported),
      `${times.toFixed(2)} × as long (target at most 3); ${megabytes.toFixed(0)} MB`,
    ],
  ]),
  [
    'import 1,000,000 events and fold them',
    seconds(events.milliseconds.check + events.milliseconds.apply),
    `checked in ${seconds(events.milliseconds.check)}, stored and folded in ${seconds(events.milliseconds.apply)}; ${events.megabytes.toFixed(0)} MB (target under 30 s, 1,000 MB)`,
  ],
  [
    'fold 1,000,000 events anew',
    seconds(events.milliseconds.profile),
    'from the stored events (target under 20 s)',
  ],
  ['shape of 100,000 × 30 cells', seconds(intake.profile), '(target under 2 s)'],
);
rows.push(
  [
    'recommendation: indexes of 1,000,000 order lines, 10,000 products',
    seconds(picks.indexes),
    `(target under 5 s); the lists of every product, made when first asked for: ${seconds(picks.lists)}; ${picks.megabytes.toFixed(0)} MB (target 1,500)`,
  ],
  ['one more order put into them', ms(picks.oneOrder), ''],
  [
    'picks of one person, five steps',
    ms(picks.query.p50),
    `99th percentile ${picks.query.p99.toFixed(2)} ms (target 1)`,
  ],
  [
    'the same of indexes made just now',
    ms(picks.first.p50),
    `99th percentile ${picks.first.p99.toFixed(2)} ms (target 1)`,
  ],
  ['picks of 100,000 people, one thread', seconds(picks.everybody), '(target under 20 s on two)'],
  ['taste of 100,000 people: 32 factors, 10 rounds', seconds(picks.taste), '(target under 60 s)'],
  [
    'pairs of 300 products',
    ms(picks.pairs.own),
    `SQLite takes ${(picks.pairs.sql / picks.pairs.own).toFixed(1)} × as long${picks.pairs.same ? ', and finds the same' : ': AND FINDS OTHERS'}`,
  ],
);
rows.push(
  ...occasions.rehearsal.map(({ people, took, mails }): [string, string, string] => [
    `rehearsal: 30 days, ${people.toLocaleString('en')} people, 8 occasions, one core`,
    seconds(took),
    `${mails.toLocaleString('en')} mails (target for 100,000: under 20 s on two)`,
  ]),
  [
    'one event through the engine, 99th percentile',
    `${occasions.event_p99_us.toFixed(0)} µs`,
    '(target under 1 ms)',
  ],
  ...occasions.mailing.flatMap((one): [string, string, string][] => [
    [
      `a mail to ${one.ready.toLocaleString('en')}: judged and filled into the outbox, one core`,
      seconds(one.judged + one.filled),
      `judged in ${seconds(one.judged)}, filled in ${seconds(one.filled)}; ${one.megabytes.toFixed(0)} MB (target for 100,000: under 60 s, 1,000 MB)`,
    ],
    [
      `an hour goes by with ${one.ready.toLocaleString('en')} inside, ${one.due.toLocaleString('en')} of them due`,
      seconds(one.hour),
      '(target for 1,000,000 inside: under 10 s)',
    ],
    [
      `${one.handed.mails.toLocaleString('en')} mails handed to the stand-in mail server, claimed and marked`,
      seconds(one.handed.own),
      `${(one.handed.own / one.handed.alone).toFixed(2)} × the same bytes by a bare client`,
    ],
  ]),
);
rows.push(
  ...surveys.flatMap(
    ({ size, mail_kb, survey, again, impact, memory_mb }): [string, string, string][] => {
      const { whole_ms, first_ms } = again ?? survey;
      const people = `${size.toLocaleString('en')} people`;
      return [
        [
          `variants and coverage of ${people}, a mail of ${mail_kb} KB`,
          seconds(whole_ms),
          `${(whole_ms / size).toFixed(2)} ms each, first rows after ${first_ms} ms, ${memory_mb} MB (target for 100,000: 5 s, 1 s, 1,000 MB)`,
        ],
        ...(impact
          ? [
              [
                `impact of an edit on ${people}`,
                seconds(impact.whole_ms),
                '(target for 100,000: under 10 s)',
              ] satisfies [string, string, string],
            ]
          : []),
      ];
    },
  ),
);
if (browser) {
  for (const { blocks, next, edit } of browser.desks)
    rows.push(
      [
        `next recipient to painted canvas, ${blocks} blocks`,
        ms(next.median),
        `95th percentile ${ms(next.p95)} (target ${blocks > 100 ? 100 : 50})`,
      ],
      [
        `letter typed to painted canvas, ${blocks} blocks`,
        ms(edit.median),
        `95th percentile ${ms(edit.p95)} (target ${blocks > 100 ? 200 : 100})`,
      ],
    );
  const { first, again } = browser.openLarge;
  const { median, p95 } = percentiles(again);
  rows.push(['a template of 1,000 nodes opened, new', ms(first), '']);
  rows.push(['the same again: median, slowest', `${ms(median)}, ${ms(p95)}`, '(target 1,000 ms)']);
}
const wide = (column: 0 | 1) => Math.max(...rows.map((row) => row[column].length));
for (const [what, time, beside] of rows)
  console.log(`${what.padEnd(wide(0))}  ${time.padStart(wide(1))}  ${beside}`);

const machine = { cpu: cpus()[0]?.model, cores: cpus().length, node: process.version };
const folder = join(import.meta.dirname, 'results');
mkdirSync(folder, { recursive: true });
writeFileSync(
  join(folder, 'latest.json'),
  `${JSON.stringify({ machine, fill, building, intake, picks, occasions, surveys, browser }, null, 2)}\n`,
);
console.log(
  `on ${machine.cpu ?? 'an unnamed machine'}, ${machine.cores} cores, Node ${machine.node}; written to bench/results/latest.json`,
);
