import { edit, type Template } from '../template';
import { blankTemplate, composer, countedIds, findNode } from '../template';
import { changeSite, templateSites } from '.';

function sample(): Template {
  const c = composer(countedIds());
  return blankTemplate('T', 's', [
    c.section('S', [
      c.heading('Hello {{ person.first_name }}'),
      c.text('{{ a }} and {{ b }}', { when: 'cart is filled', else: c.text('{{ other }}') }),
      c.block('picture'),
      c.block('cards'),
      c.block('lines', { properties: true }),
      c.block('totals'),
      c.button('Go', '{{ shop.url }}', {
        loop: { list: 'cart.lines', as: 'one', where: 'price > 1' },
      }),
    ]),
  ]);
}

const DERIVED = /^(?:items\.(?:name|variant|quantity|price|total)|properties)$/;

describe('formula sites', () => {
  it('can be changed where they are named, but for those made of others', () => {
    const template = sample();
    const seen: string[] = [];
    for (const site of templateSites(template)) {
      const kind = site.node === '' ? 'envelope' : findNode(template, site.node)?.node.kind;
      const isDerived = kind === 'lines' && DERIVED.test(site.path);
      const done = edit(
        template,
        'mend',
        (draft) => void changeSite(draft, site, (source) => `${source}!`),
      );
      expect([site.path, done !== null]).toEqual([site.path, !isDerived]);
      const changed =
        done &&
        templateSites(done.template).find((s) => s.node === site.node && s.path === site.path);
      expect(changed?.source ?? `${site.source}!`).toBe(`${site.source}!`);
      seen.push(`${kind ?? ''} ${site.path}`);
    }
    for (const path of [
      'envelope subject',
      'heading text',
      'text text.0',
      'text when',
      'picture src',
      'cards items.list',
      'cards fields.0.src',
      'cards fields.2.price',
      'lines columns.1.heading',
      'lines items.name',
      'totals rows.0.amount',
      'button href',
      'button loop.where',
    ])
      expect(seen).toContain(path);
  });

  it('know their loops, their use and the conditions around', () => {
    const sites = templateSites(sample());
    const at = (path: string) => sites.find((site) => site.path === path);
    expect(at('fields.0.alt')).toMatchObject({
      form: 'running',
      use: 'tag',
      loops: [{ as: 'product' }],
    });
    // A picture without an address is left out: a blank one needs no fallback.
    expect(at('fields.0.src')?.use).toBe('value');
    expect(at('items.list')).toMatchObject({ use: 'list', loops: [] });
    expect(at('loop.where')).toMatchObject({ use: 'condition', loops: [{ as: 'one' }] });
    expect(at('text.0')?.guards).toEqual(['cart is filled']);
    expect(at('when')).toMatchObject({ use: 'condition', guards: [] });
    expect(sites.find((site) => site.source === 'other')?.guards).toEqual([]);
  });

  it('are found once for a document that cannot change', () => {
    const first = edit(sample(), 'name', (draft) => void (draft.name = 'U'))?.template;
    if (!first) throw new Error('a name was changed');
    expect(templateSites(first)).toBe(templateSites(first));
    const second = edit(first, 'subject', (draft) => void (draft.envelope.subject = '{{ x }}'));
    expect(second && templateSites(second.template)[1]?.source).toBe('{{ x }}');
  });

  it('tell what cannot be read, with its column', () => {
    const template = sample();
    template.envelope.subject = 'Hi {{ 1 + }}';
    const site = templateSites(template).find(({ path }) => path === 'subject');
    expect(site?.parsed).toMatchObject({ ok: false, error: { column: 11 } });
    expect(changeSite(template, { node: 'nobody', path: 'text' }, (s) => s)).toBe(false);
  });
});
