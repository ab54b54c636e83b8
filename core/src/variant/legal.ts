import { fieldOf, isRecord, type Fields } from '../formula';
import { wordsOfNode } from '../template/nodeWords';
import type { TemplateNode } from '../template/schema';
import { isReached, type Reached } from './reach';

/** A street with a number, or a post code, somewhere in words. */
const STREET =
  /\b\d{1,5}\s+\p{L}{3,}|\p{L}{3,}\s+\d{1,5}\b|\b[A-Z]{1,2}\d{1,2}[A-Z]?\s*\d[A-Z]{2}\b/u;

/** Where a node says where the shop is: by the shop's address, in words of its own, or not at all. */
export function addressIn(node: TemplateNode): 'shop' | 'words' | null {
  const own = JSON.stringify({ ...node, columns: undefined, blocks: undefined, else: undefined });
  if (node.kind === 'foot' || own.includes('shop.address')) return 'shop';
  return wordsOfNode(node).some((words) => STREET.test(words)) ? 'words' : null;
}

const filled = (record: Fields, root: string, name: string): string => {
  const of = fieldOf(record, root);
  const value = isRecord(of) ? fieldOf(of, name) : undefined;
  return typeof value === 'string' ? value.trim() : '';
};

/** The link by which a person leaves; blank where the record has none. */
export const leaveLinkOf = (record: Fields): string => filled(record, 'links', 'unsubscribe');

/** Says whether an email tells its reader where the shop is. */
export function addressTeller(
  reached: readonly Reached[],
): (record: Fields, bits: readonly number[]) => boolean {
  const telling = reached.flatMap(({ node, needed }) => {
    const how = addressIn(node);
    return how === null ? [] : [{ how, needed }];
  });
  return (record, bits) => {
    const hasAddress = filled(record, 'shop', 'address') !== '';
    return telling.some(
      ({ how, needed }) => (how === 'words' || hasAddress) && isReached(needed, bits),
    );
  };
}
