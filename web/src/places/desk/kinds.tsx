import {
  IconArticle,
  IconColumns,
  IconHeading,
  IconLayoutGrid,
  IconLayoutRows,
  IconLink,
  IconListDetails,
  IconMinus,
  IconPhoto,
  IconReceipt,
  IconSpacingVertical,
  type Icon,
} from '@tabler/icons-react';
import { walkInlines, type TemplateNode } from '@carafe/core/template';

export const KIND_ICON: Record<TemplateNode['kind'], Icon> = {
  section: IconLayoutRows,
  column: IconColumns,
  text: IconArticle,
  heading: IconHeading,
  picture: IconPhoto,
  button: IconLink,
  cards: IconLayoutGrid,
  lines: IconListDetails,
  totals: IconReceipt,
  divider: IconMinus,
  spacer: IconSpacingVertical,
};

const MAX = 60;

/** Words with tags, the tags as the last name in them: "Hello ‹first_name›". */
function gist(text: string): string {
  return text.replace(/\{\{\s*([^}]*?)\s*\}\}/g, (_, formula: string) => {
    const names = formula.replace(/"[^"]*"/g, '').match(/[\p{L}_][\p{L}\p{Nd}_.]*/gu) ?? [];
    const path = names.find((name) => name.includes('.')) ?? names[0] ?? '';
    return `‹${path.split('.').at(-1) ?? ''}›`;
  });
}

function cut(text: string): string {
  return text.length > MAX ? `${text.slice(0, MAX).trimEnd()}…` : text;
}

/** A node in a few of its own words. */
export function labelOf(node: TemplateNode): string {
  switch (node.kind) {
    case 'section':
      return node.name ?? 'Section';
    case 'column':
      return 'Column';
    case 'text': {
      const words = node.text.content
        .map((block) => {
          let said = '';
          walkInlines({ type: 'doc', content: [block] }, (inline) => {
            if (inline.type === 'text') said += inline.text;
            else said += inline.type === 'tag' ? gist(`{{ ${inline.attrs.formula} }}`) : ' ';
          });
          return said;
        })
        .join(' ');
      return cut(words.trim()) || 'Empty text';
    }
    case 'heading':
      return gist(node.text) || 'Empty heading';
    case 'picture':
      return gist(node.alt) || 'Picture';
    case 'button':
      return gist(node.label) || 'Button';
    case 'cards':
      return `Cards of ${node.items.list}`;
    case 'lines':
      return `Table of ${node.items.list}`;
    case 'totals':
      return node.rows.map((row) => gist(row.label)).join(', ');
    case 'divider':
      return 'Divider';
    case 'spacer':
      return `Spacer, ${node.height} px`;
  }
}
