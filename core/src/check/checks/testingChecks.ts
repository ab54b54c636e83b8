import { build } from '../../build';
import type { Fields } from '../../formula';
import { reviveRecord } from '../../record';
import { inferShape } from '../../shape';
import { templateSites } from '../../site';
import { blankTemplate, composer, countedIds, type Block, type Template } from '../../template';
import { coverageOf, Surveyor } from '../../variant';
import { runChecks, type CheckContext, type CheckFinding } from '../all';

// What tests of checks share: a sound mail, people who get it, and what the checks say of it.

export const now = new Date('2026-11-26T10:00:00Z');
export const c = composer(countedIds());
export const UNSUBSCRIBE = '{{ links.unsubscribe }}';

export const product = (sku: string, more: object = {}): Fields => ({
  ...{ sku, name: `Pot ${sku}`, price: 12, in_stock: true, url: `https://shop.example/${sku}` },
  ...{ image: `https://shop.example/${sku}.png`, category: 'Pots' },
  ...more,
});
export const PRODUCTS = [product('A'), product('B'), product('C')];

export const people = (n: number, more: (i: number) => object = () => ({})): Fields[] =>
  Array.from(
    { length: n },
    (_, i) =>
      reviveRecord({
        person: {
          email: `p${i}@mail.test`,
          first_name: `Ada${i}`,
          locale: 'en-GB',
          consent: i % 2 === 0,
        },
        shop: { name: 'House', url: 'https://shop.example', address: '1 Lane', currency: 'GBP' },
        links: { unsubscribe: `https://shop.example/mail/unsubscribe/${i}` },
        cart: {
          lines: [{ sku: 'A', name: 'Pot A', url: 'https://shop.example/A', price: 12 }],
          total: 12 + i,
        },
        catalog: { garden: PRODUCTS },
        coupon: { spring: { code: 'SPRING10', expires_at: '2027-05-01T00:00:00Z' } },
        ...more(i),
      }) as Fields,
  );

/** A mail in which nothing is wrong. */
export function sound(
  blocks: Block[] = [],
  change: (template: Template) => void = () => undefined,
): Template {
  const template = blankTemplate(
    'T',
    'house',
    [
      c.section('Words', [c.text('Hello {{ person.first_name }}, good day.'), ...blocks]),
      c.section('Foot', [c.block('foot')]),
    ],
    'post@shop.example',
  );
  template.envelope.subject = 'A word, {{ person.first_name }}';
  template.envelope.preview_text = 'From the garden';
  change(template);
  return template;
}

export interface Given {
  records?: Fields[];
  more?: Partial<CheckContext>;
}
export async function check(
  template: Template,
  { records = people(4), more = {} }: Given = {},
): Promise<CheckFinding[]> {
  const { program, findings: built } = await build(template, { keepsAddresses: true });
  const surveyor = new Surveyor(template, program, {
    expectations: (template.expectations ?? []).map(({ formula }) => formula),
  });
  records.forEach((record, i) => surveyor.look(i + 1, record, now));
  const survey = surveyor.survey();
  return runChecks({
    ...{ template, built, survey, now, sites: templateSites(template) },
    ...{ shape: inferShape(records), coverage: coverageOf(template, survey) },
    products: new Map(PRODUCTS.map((one) => [String(one['sku']), one])),
    hasProduct: (sku) => PRODUCTS.some((one) => one['sku'] === sku),
    coupons: { spring: { code: 'SPRING10' } },
    ...{ sentAs: null, sources: [], pictures: [] },
    ...more,
  });
}
export const names = async (template: Template, given?: Given) =>
  new Set((await check(template, given)).map(({ check: name }) => name));
