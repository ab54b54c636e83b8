import { checkTemplate, type TemplateFinding } from '@carafe/core/check';
import type { Program } from '@carafe/core/build';
import type { Fields } from '@carafe/core/formula';
import {
  assembleRecord,
  productIndex,
  reviveRecord,
  type PersonData,
  type World,
} from '@carafe/core/record';
import { prepare, type Mail, type Render, type Trail } from '@carafe/core/render';
import type { Shape } from '@carafe/core/shape';
import type { Template } from '@carafe/core/template';

/** What the desk tells the worker that fills mails and checks templates. */
export type ToWorker =
  | { type: 'world'; world: unknown }
  | { type: 'shape'; shape: Shape }
  | { type: 'people'; people: { id: number; data: PersonData }[]; products: unknown[] }
  | { type: 'program'; program: Program }
  | { type: 'fill'; person: number; asOf: string; turn: number }
  | { type: 'check'; template: Template };

export interface Filled {
  person: number;
  turn: number;
  mail: Mail;
  trail: Trail;
  formulas: string[];
}
export type FromWorker =
  { type: 'filled'; filled: Filled } | { type: 'checked'; findings: TemplateFinding[] };

let world: World | null = null;
let products = new Map<string, Fields>();
/** Products of lines whose catalog the template does not read. */
let beside: Fields[] = [];
let shape: Shape = { kind: 'any' };
let program: Program | null = null;
let render: Render | null = null;
const people = new Map<number, PersonData>();

function fill(person: number, asOf: string, turn: number): void {
  const data = people.get(person);
  if (!data || !world || !render || !program) return;
  const record = assembleRecord(data, world, products);
  const { mail, trail = [] } = render(record, { asOf: new Date(asOf) });
  post({ type: 'filled', filled: { person, turn, mail, trail, formulas: program.formulas } });
}

function post(message: FromWorker): void {
  postMessage(message);
}

addEventListener('message', ({ data: message }: MessageEvent<ToWorker>) => {
  switch (message.type) {
    case 'world':
      world = reviveRecord(message.world) as World;
      beside = [];
      products = productIndex(world);
      people.clear();
      break;
    case 'shape':
      shape = message.shape;
      break;
    case 'people':
      for (const { id, data } of message.people) people.set(id, data);
      beside.push(...message.products.map((product) => reviveRecord(product) as Fields));
      if (world && message.products.length > 0) products = productIndex(world, beside);
      break;
    case 'program':
      program = message.program;
      render = prepare(program, { trail: true, canvas: true });
      break;
    case 'fill':
      fill(message.person, message.asOf, message.turn);
      break;
    case 'check':
      post({ type: 'checked', findings: checkTemplate(message.template, shape) });
  }
});
