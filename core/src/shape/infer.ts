import { ANY, type Field, type Shape } from './shape';

const MAX_SAMPLES = 4;
const MAX_DEPTH = 8;
const MAX_FIELDS = 400;

/** Gathers the shape of records one at a time, so that it works on any number of them. */
export class ShapeBuilder {
  private readonly root = new Gathered();

  add(record: unknown): void {
    this.root.add(record, 0);
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

  add(value: unknown, depth: number): void {
    this.seen++;
    if (value === null || value === undefined) return;
    const kind = kindOf(value);
    if (typeof value === 'string' && value.trim() === '') return;
    this.kinds.set(kind, (this.kinds.get(kind) ?? 0) + 1);
    if (Array.isArray(value)) {
      if (value.length > 0) this.filled++;
      this.length.all += value.length;
      this.length.most = Math.max(this.length.most, value.length);
      this.members ??= new Gathered();
      if (depth < MAX_DEPTH) for (const member of value) this.members.add(member, depth + 1);
      return;
    }
    this.filled++;
    if (kind === 'record') {
      if (depth < MAX_DEPTH) this.addFields(value as object, depth);
    } else if (this.samples.size < MAX_SAMPLES) {
      this.samples.add(sampleOf(value));
    }
  }

  private addFields(record: object, depth: number): void {
    for (const [name, value] of Object.entries(record)) {
      let field = this.fields.get(name);
      if (!field) {
        if (this.fields.size >= MAX_FIELDS) continue;
        field = new Gathered();
        this.fields.set(name, field);
      }
      field.add(value, depth + 1);
    }
  }

  shape(): Shape {
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
    const field = { shape: this.shape(), filled: this.filled, of, samples: [...this.samples] };
    const { all, most } = this.length;
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
