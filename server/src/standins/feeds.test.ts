import { readFeed } from '@carafe/core/formats';
import fc from 'fast-check';
import { asAtom, asJsonFeed, asRss } from './feeds';
import type { JournalPost } from './journalRepository';

// Words without what XML or HTML would take for its own: how those are read is tested with the formats.
const words = fc
  .array(fc.constantFrom('Aster', 'Käthe’s', 'bed', 'R&D', '5 > 3', '“quote”', "it's"), {
    minLength: 1,
    maxLength: 5,
  })
  .map((all) => all.join(' '));
const post = fc.record({
  title: words,
  summary: words,
  content: words.map((text) => `<p>${text.replace(/&/g, '&amp;').replace(/>/g, '&gt;')}</p>`),
  image: fc.constantFrom(null, 'https://p.example/a.png?x=1&y=2'),
  author: fc.constantFrom('Hester Lovage', 'Jost & Söhne'),
  category: fc.constantFrom(null, 'Seeds'),
});

test('posts are read back the same from RSS, Atom and JSON Feed', () => {
  fc.assert(
    fc.property(fc.array(post, { maxLength: 4 }), (made) => {
      const posts = made.map((one, i): JournalPost => {
        const day = String(28 - i).padStart(2, '0');
        return { ...one, guid: `g${i}`, published_at: `2026-03-${day}T09:00:00.000Z` };
      });
      const feed = { id: 'f', title: 'The Furrow & more', link: 'https://f.example/', posts };
      const wanted = posts.map(
        ({ guid, title, summary, content, image, author, category, published_at }) => ({
          ...{ guid, title, summary, content, author, published_at },
          link: `https://f.example/${guid}`,
          categories: category === null ? [] : [category],
          ...(image !== null && { image }),
        }),
      );
      for (const text of [asRss(feed), asAtom(feed), JSON.stringify(asJsonFeed(feed))]) {
        const read = readFeed(text);
        expect(read).toMatchObject({ title: 'The Furrow & more', link: 'https://f.example/' });
        expect(
          read.posts.map((one) => ({
            ...one,
            published_at: new Date(one.published_at ?? '').toISOString(),
          })),
        ).toEqual(wanted);
      }
    }),
    { numRuns: 60 },
  );
});
