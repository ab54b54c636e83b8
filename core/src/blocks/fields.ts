/**
 * The fields of a kind of node as data. What holds formulas, what a form shows, and what a check looks
 * at are derived from these; see `sites` and the inspector of the interface.
 */
interface Base {
  /** From the node, or from the member of the list that the field belongs to: `href`, `padding.top`. */
  path: string;
  label: string;
  help?: string;
  placeholder?: string;
  /** What the field says, or how it looks; `content` where it is left out. */
  part?: 'content' | 'looks';
  /** It stands inside the node's own list: its formulas see the member. */
  inList?: boolean;
  /** It can be left out; an empty one is taken away. */
  optional?: boolean;
}

/** One line of running text with merge tags. */
export interface LineField extends Base {
  control: 'line';
  /**
   * A blank picture or code leaves out what it is of and needs no fallback; an address is made safe;
   * HTML is cleaned, and written in several lines.
   */
  holds: 'text' | 'link' | 'picture' | 'code' | 'html';
  /** Of a picture: the path at which its alt text stands. */
  alt?: string;
  /** It is edited where it stands in the canvas: at once when the block is added, or only when asked for. */
  inPlace?: true | 'when asked';
}
/** Paragraphs and lists with merge tags. */
export interface RichField extends Base {
  control: 'rich';
  inPlace?: true | 'when asked';
}
/** Text without merge tags. */
export interface PlainField extends Base {
  control: 'plain';
}
/** The SKU of a product of the shop’s catalogs. */
export interface ProductFieldSpec extends Base {
  control: 'product';
}
export interface FormulaFieldSpec extends Base {
  control: 'formula';
  use: 'value' | 'condition';
}
export interface NumberField extends Base {
  control: 'number';
  least: number;
  most: number;
  unit: 'px' | '%' | 'characters' | 'lines';
}
export type ChoiceValue = string | number;
export interface ChoiceField extends Base {
  control: 'choice';
  /** Side by side, or in a menu. */
  as: 'bar' | 'menu';
  options: readonly { value: ChoiceValue; label: string }[];
  /** What holds where the field is left out. */
  initial?: ChoiceValue;
}
export interface SwitchField extends Base {
  control: 'switch';
}
/** #rrggbb. */
export interface ColourField extends Base {
  control: 'colour';
}

/** One kind of member of a list field. */
export interface MemberKind {
  /** The value of the member's `show`; null where all members are of one kind. */
  show: string | null;
  name: string;
  fields: readonly NodeField[];
  /** At most one of this kind. */
  once?: boolean;
  /** A new member; `as` is the name of a member of the node's own list. */
  make(as: string): object;
}
/** A list of members that are put in order, added and taken out. */
export interface ListField extends Base {
  control: 'list';
  least: number;
  most: number;
  addLabel: string;
  kinds: readonly MemberKind[];
}

export type NodeField =
  | LineField
  | RichField
  | PlainField
  | ProductFieldSpec
  | FormulaFieldSpec
  | NumberField
  | ChoiceField
  | SwitchField
  | ColourField
  | ListField;

/** Which of the kinds of a list field a member is of. */
export function memberKind(field: ListField, member: unknown): MemberKind | undefined {
  const { show } = member as { show?: unknown };
  return field.kinds.find((kind) => kind.show === null || kind.show === show);
}

type Fields = Record<string, unknown>;
const isObject = (value: unknown): value is Fields => typeof value === 'object' && value !== null;

/** The value at a path such as `padding.top` or `rows.2.amount`; undefined where there is none. */
export function valueAt(owner: unknown, path: string): unknown {
  return path
    .split('.')
    .reduce<unknown>(
      (value, step) => (isObject(value) && Object.hasOwn(value, step) ? value[step] : undefined),
      owner,
    );
}

/**
 * Puts a value at a path, making the records on the way; undefined takes it away, and a record that
 * is left without fields with it.
 */
export function putAt(owner: object, path: string, value: unknown): void {
  const [step = '', ...rest] = path.split('.');
  const fields = owner as Fields;
  if (rest.length === 0) {
    if (value === undefined) delete fields[step];
    else fields[step] = value;
    return;
  }
  const inside = isObject(fields[step]) ? fields[step] : {};
  if (fields[step] !== inside) {
    if (value === undefined) return;
    fields[step] = inside;
  }
  putAt(fields[step] as Fields, rest.join('.'), value);
  if (!Array.isArray(fields[step]) && Object.keys(fields[step] as Fields).length === 0)
    delete fields[step];
}

/** A field of a node with the path at which it stands there: `fields.0.src`. */
export interface FieldAt {
  field: NodeField;
  path: string;
  inList: boolean;
}

/** Every field of a node in reading order, those of members of lists after their list. */
export function fieldsAt(node: unknown, fields: readonly NodeField[]): FieldAt[] {
  const found: FieldAt[] = [];
  const add = (some: readonly NodeField[], before: string, isInside: boolean): void => {
    for (const field of some) {
      const path = `${before}${field.path}`;
      const inList = isInside || field.inList === true;
      found.push({ field, path, inList });
      if (field.control !== 'list') continue;
      const members = valueAt(node, path);
      if (!Array.isArray(members)) continue;
      members.forEach((member, i) => {
        const kind = memberKind(field, member);
        if (kind) add(kind.fields, `${path}.${i}.`, inList);
      });
    }
  };
  add(fields, '', false);
  return found;
}

/** Left, middle or right. */
export function alignField(initial: 'left' | 'center'): ChoiceField {
  return {
    control: 'choice',
    as: 'bar',
    path: 'align',
    label: 'Alignment',
    part: 'looks',
    optional: true,
    initial,
    options: [
      { value: 'left', label: 'Left' },
      { value: 'center', label: 'Center' },
      { value: 'right', label: 'Right' },
    ],
  };
}

const space = (side: 'top' | 'bottom', label: string): NumberField => ({
  control: 'number',
  path: `padding.${side}`,
  label,
  part: 'looks',
  optional: true,
  placeholder: 'Usual',
  least: 0,
  most: 200,
  unit: 'px',
});
/** The space above and below. */
export const SPACE: readonly NumberField[] = [
  space('top', 'Space above'),
  space('bottom', 'Space below'),
];

export const TEXT_COLOUR: ColourField = {
  control: 'colour',
  path: 'colour',
  label: 'Text colour',
  part: 'looks',
  optional: true,
  placeholder: 'House style',
};

/** What a node is called in the outline. */
export const OWN_NAME: PlainField = {
  control: 'plain',
  path: 'name',
  label: 'Name',
  help: 'For the outline; nobody else sees it',
  optional: true,
};

/** What a block over a list says where the list has no member. */
export const EMPTY_WORDS: LineField = {
  control: 'line',
  path: 'empty',
  label: 'If the list is empty',
  placeholder: 'Nothing',
  holds: 'text',
  optional: true,
};
