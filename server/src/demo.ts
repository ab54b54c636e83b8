import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { demoTemplates, drawLogo, drawProduct, makeCatalog, makeFiles } from '@carafe/demo';
import type { Store } from './db';
import { foldShop, takeCatalog, takeCoupons, takeEvents, takeFeed, takePeople } from './intake';

/** Brings the seed house in, by the same reading code that a user's files take. */
export function loadDemo(store: Store, asOf: Date, newId: () => string): void {
  const files = makeFiles(asOf);
  store.db.transaction(() => {
    for (const shop of files.shops) store.shops.insert(shop);
    takePeople(store, files.people);
    for (const { id } of files.shops) {
      takeCatalog(store, id, 'garden', files.catalogs[id] ?? '');
      takeCoupons(store, id, files.coupons[id] ?? '');
      takeEvents(store, files.events[id] ?? '');
      foldShop(store, id);
    }
    for (const [name, feed] of Object.entries(files.feeds)) takeFeed(store, name, feed);
    const now = asOf.getTime();
    // Each a while before the other, so that the order of the templates is the same each time.
    demoTemplates().forEach((template, i) => {
      store.templates.insert(newId(), template, new Date(now - i * 90_000_000).toISOString());
    });
  })();
}

/** Draws the pictures of the demo's products where they are not there yet. */
export function drawPictures(folder: string): void {
  const done = join(folder, '.complete');
  if (existsSync(done)) return;
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'logo.png'), drawLogo());
  for (const product of makeCatalog(new Date(0), 'GBP', 'shop.quillmoss.example'))
    writeFileSync(join(folder, `${product.sku.toLowerCase()}.png`), drawProduct(product));
  writeFileSync(done, '');
}
