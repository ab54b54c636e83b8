import { isDateField } from '../record/dates';

/** So many different values of a field are told apart; past that, only that there are more. */
const MAX_DISTINCT = 20_000;
const MAX_COMMONEST = 50;
const MAX_SAMPLES = 4;
const MAX_FIELDS = 500;

export type ProfileKind =
  'text' | 'number' | 'boolean' | 'date' | 'list' | 'record' | 'mixed' | 'none';

/** What a field holds over all records. */
export interface FieldProfile {
  name: string;
  kind: ProfileKind;
  /** In how many of `of` records it is filled. */
  filled: number;
  of: number;
  /** How many different values there are; with `more`, at least so many. Of a list, of its members. */
  distinct: number;
  more: boolean;
  /** Least and greatest: numbers, dates, lengths of lists. */
  least: string | null;
  greatest: string | null;
  commonest: { value: string; count: number }[];
  samples: string[];
}

class Column {
  filled = 0;
  private texts = 0;
  private numbers = 0;
  private booleans = 0;
  private dates = 0;
  private lists = 0;
  private records = 0;
  private least = Number.POSITIVE_INFINITY;
  private greatest = Number.NEGATIVE_INFINITY;
  private first = '\u{10FFFF}';
  private last = '';
  private more = false;
  private readonly counts = new Map<string | number | boolean, number>();
  private readonly isDate: boolean;

  constructor(private readonly name: string) {
    this.isDate = isDateField(name);
  }

  // The hot loop of a profile: a few comparisons and one look into a map for every cell.
  add(value: unknown): void {
    switch (typeof value) {
      case 'string':
        if (value === '' || value.trim() === '') return;
        this.filled++;
        if (this.isDate) this.addDate(value);
        else {
          this.texts++;
          this.count(value);
        }
        return;
      case 'number':
        this.filled++;
        this.numbers++;
        this.range(value);
        this.count(value);
        return;
      case 'boolean':
        this.filled++;
        this.booleans++;
        this.count(value);
        return;
      case 'object':
        this.addObject(value);
        return;
      default:
        return;
    }
  }

  private addObject(value: object | null): void {
    if (value === null) return;
    if (Array.isArray(value)) {
      if (value.length === 0) return;
      this.filled++;
      this.lists++;
      this.range(value.length);
      for (const member of value as unknown[])
        if (typeof member === 'string' || typeof member === 'number') this.count(member);
      return;
    }
    this.filled++;
    const { date } = value as { date?: unknown };
    if (typeof date === 'string') this.addDate(date);
    else this.records++;
  }

  private addDate(iso: string): void {
    this.dates++;
    if (iso < this.first) this.first = iso;
    if (iso > this.last) this.last = iso;
    this.count(iso);
  }

  private range(value: number): void {
    if (value < this.least) this.least = value;
    if (value > this.greatest) this.greatest = value;
  }

  private count(value: string | number | boolean): void {
    const known = this.counts.get(value);
    if (known !== undefined) this.counts.set(value, known + 1);
    else if (this.counts.size < MAX_DISTINCT) this.counts.set(value, 1);
    else this.more = true;
  }

  private kind(): ProfileKind {
    const seen = (
      [
        ['text', this.texts],
        ['number', this.numbers],
        ['boolean', this.booleans],
        ['date', this.dates],
        ['list', this.lists],
        ['record', this.records],
      ] as const
    ).filter(([, count]) => count > 0);
    const [only] = seen;
    if (!only) return 'none';
    return seen.length === 1 ? only[0] : 'mixed';
  }

  profile(of: number): FieldProfile {
    const kind = this.kind();
    const { least, greatest } = this;
    const ranged = kind === 'number' || kind === 'list';
    const values = [...this.counts.entries()];
    const commonest = values
      .filter(([, count]) => count > 1)
      .sort((a, b) => b[1] - a[1])
      .slice(0, MAX_COMMONEST);
    return {
      name: this.name,
      kind,
      filled: this.filled,
      of,
      distinct: this.counts.size,
      more: this.more,
      least: kind === 'date' ? this.first : ranged ? String(least) : null,
      greatest: kind === 'date' ? this.last : ranged ? String(greatest) : null,
      commonest: commonest.map(([value, count]) => ({ value: inShort(value), count })),
      samples: values.slice(0, MAX_SAMPLES).map(([value]) => inShort(value)),
    };
  }
}

function inShort(value: string | number | boolean): string {
  const text = typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value);
  return text.length > 80 ? `${text.slice(0, 79)}…` : text;
}

/** Gathers what the fields of flat records hold, one record at a time, whatever their number. */
export class ProfileBuilder {
  private readonly columns = new Map<string, Column>();
  private seen = 0;

  add(record: object): void {
    this.seen++;
    for (const name in record) {
      if (!Object.hasOwn(record, name)) continue;
      let column = this.columns.get(name);
      if (!column) {
        if (this.columns.size >= MAX_FIELDS) continue;
        column = new Column(name);
        this.columns.set(name, column);
      }
      column.add((record as Record<string, unknown>)[name]);
    }
  }

  fields(): FieldProfile[] {
    return [...this.columns.values()].map((column) => column.profile(this.seen));
  }
}
