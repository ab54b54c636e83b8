import type { TemplateNode } from './schema';

/** The words that a node says itself, not those of what stands in it. */
export function wordsOfNode(node: TemplateNode): string[] {
  const words: string[] = [];
  const take = (value: unknown, key: string): void => {
    if (typeof value === 'string') {
      if (/^(?:text|label|alt|words|note|title|unsubscribe|preferences|view)$/.test(key))
        words.push(value);
    } else if (Array.isArray(value)) {
      for (const one of value as unknown[]) take(one, key);
    } else if (typeof value === 'object' && value !== null) {
      for (const [name, inside] of Object.entries(value))
        if (!['columns', 'blocks', 'else', 'loop', 'items'].includes(name)) take(inside, name);
    }
  };
  take(node, '');
  return words;
}
