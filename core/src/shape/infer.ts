import { ANY, type Field, type Shape } from './shape';

const MAX_SAMPLES = 4;
/** A text that takes at most so many values, each so short, is a choice of them. */
const MAX_VALUES = 100;
const MAX_VALUE = 60;
const MAX_DEPTH = 8;
const MAX_FIELDS = 400;

type IsShared = (record: object) => boolean;

/**
 * Gathers the shape of records one at a time, so that it works on any number of them. Records that `isShared` says are
 * the same objects in many places, as a product is in the lines of many carts: each is looked at once for all of them.
 */
export class ShapeBuilder {
  private readonly root: Gathered;

  constructor({ isShared = () => false }: { isShared?: IsShared } = {}) {
    this.root = new Gathered(0, isShared);
  }

  add(record: unknown): void {
    this.root.add(record, 1);
  }

  shape(): Shape {
    return this.root.shape();
  }
}

/** What was seen at one place: how often, and of which kinds. */
class Gathered {
  private seen = 0;
  private filled = 0;
  private readonly kinds = new Map<string, number>();
  private readonly fields = new Map<string, Gathered>();
  private members: Gathered | undefined;
  private readonly length = { all: 0, most: 0 };
  private readonly samples = new Set<string>();
  /** All texts seen; null once they are too many to choose from. */
  private values: Set<string> | null = new Set();
  /** How often each shared record was seen since they were looked at last. */
  private readonly shared = new Map<object, number>();

  constructor(
    private readonly depth: number,
    private readonly isShared: IsShared,
  ) {}

  /** Takes in what was seen so many times. */
  add(value: unknown, times: number): void {
    this.seen += times;
    if (value === null || value === undefined) return;
    const kind = kindOf(value);
    if (typeof value === 'string' && value.trim() === '') return;
    this.kinds.set(kind, (this.kinds.get(kind) ?? 0) + times);
    if (Array.isArray(value)) {
      if (value.length > 0) this.filled += times;
      this.length.all += value.length * times;
      this.length.most = Math.max(this.length.most, value.length);
      this.members ??= new Gathered(this.depth + 1, this.isShared);
      if (this.depth < MAX_DEPTH) for (const member of value) this.members.add(member, times);
      return;
    }
    this.filled += times;
    if (kind === 'record') {
      const record = value as object;
      if (this.isShared(record)) this.shared.set(record, (this.shared.get(record) ?? 0) + times);
      else this.addFields(record, times);
      return;
    }
    if (this.samples.size < MAX_SAMPLES) this.samples.add(sampleOf(value));
    if (this.values && typeof value === 'string') {
      this.values.add(value);
      if (this.values.size > MAX_VALUES || value.length > MAX_VALUE) this.values = null;
    }
  }

  private addFields(record: object, times: number): void {
    if (this.depth >= MAX_DEPTH) return;
    for (const [name, value] of Object.entries(record)) {
      let field = this.fields.get(name);
      if (!field) {
        if (this.fields.size >= MAX_FIELDS) continue;
        field = new Gathered(this.depth + 1, this.isShared);
        this.fields.set(name, field);
      }
      field.add(value, times);
    }
  }

  shape(): Shape {
    for (const [record, times] of this.shared) this.addFields(record, times);
    this.shared.clear();
    const [first, ...others] = [...this.kinds.keys()];
    if (first === undefined || others.length > 0) return ANY;
    if (first === 'list') return { kind: 'list', of: this.members?.shape() ?? ANY };
    if (first !== 'record') return { kind: first as 'text' };
    const fields: Record<string, Field> = {};
    for (const [name, field] of this.fields) {
      Object.defineProperty(fields, name, {
        value: field.asField(this.filled),
        enumerable: true,
        configurable: true,
        writable: true,
      });
    }
    return { kind: 'record', fields };
  }

  private asField(of: number): Field {
    const field: Field = {
      ...{ shape: this.shape(), filled: this.filled, of },
      samples: [...this.samples],
    };
    const { all, most } = this.length;
    const values = field.shape.kind === 'list' ? this.members?.values : this.values;
    if (values && values.size > 0 && (field.shape.kind === 'list' || values.size > MAX_SAMPLES))
      field.values = [...values].sort((a, b) => a.localeCompare(b));
    if (field.shape.kind !== 'list' || this.filled === 0) return field;
    return { ...field, length: { usual: Math.max(1, Math.round(all / this.filled)), most } };
  }
}

function kindOf(value: unknown): string {
  if (Array.isArray(value)) return 'list';
  if (value instanceof Date) return 'date';
  switch (typeof value) {
    case 'string':
      return 'text';
    case 'number':
      return 'number';
    case 'boolean':
      return 'boolean';
    default:
      return 'record';
  }
}

function sampleOf(value: unknown): string {
  const text = value instanceof Date ? value.toISOString() : String(value);
  return text.length > 80 ? `${text.slice(0, 79)}…` : text;
}

/** The shape of a list of records: every field with its type, how often it is filled, and samples. */
export function inferShape(records: Iterable<unknown>): Shape {
  const builder = new ShapeBuilder();
  for (const record of records) builder.add(record);
  return builder.shape();
}
