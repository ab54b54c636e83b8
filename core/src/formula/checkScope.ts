import { ANY, fieldNamed, LOOP, type Field, type Shape } from '../shape';
import { namesOf } from './checkRules';
import type { ScopeFrame } from './finding';

/** A type together with the field it was read from, if it is a plain path. */
export interface Typed {
  type: Shape;
  field?: Field;
  /** Of a list read through the members of another: the field that is read of each. */
  ofMembers?: Field;
}

/** What bare names mean at a place: fields of the members in scope, nearest first, then of the record. */
export class Scope {
  private readonly frames: ScopeFrame[];

  constructor(
    readonly root: Shape,
    frames: readonly ScopeFrame[] = [],
  ) {
    this.frames = [...frames];
  }

  /** Works with a member in scope. */
  inside<T>(shape: Shape, as: string | null, work: () => T): T {
    this.frames.push({ shape, as });
    const result = work();
    this.frames.pop();
    return result;
  }

  /** What a name means; undefined where it means nothing. */
  find(name: string): Typed | undefined {
    for (const frame of [...this.frames].reverse()) {
      if (frame.as === name || name === 'it') return { type: frame.shape };
      const field = fieldNamed(frame.shape, name);
      if (field) return { type: field.shape, field };
      if (frame.shape.kind === 'any') return { type: ANY };
    }
    const field = fieldNamed(this.root, name);
    if (field) return { type: field.shape, field };
    if (name === 'record') return { type: this.root };
    if (name === 'loop' && this.frames.length > 0) return { type: LOOP };
    return this.root.kind === 'record' ? undefined : { type: ANY };
  }

  /** All names that mean something here. */
  names(): string[] {
    const ofFrames = this.frames.flatMap(({ as, shape }) => [
      ...(as ? [as] : []),
      ...namesOf(shape),
    ]);
    return [...ofFrames, ...(this.frames.length > 0 ? ['loop'] : []), ...namesOf(this.root)];
  }

  /** Whether a name is one of a member in scope, not of the record. */
  isOfMember(name: string | undefined): boolean {
    return this.frames.some(
      ({ as, shape }) =>
        as === name || (name !== undefined && fieldNamed(shape, name) !== undefined),
    );
  }
}
