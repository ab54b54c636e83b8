import { field, type TargetDefinition } from './define';

/** The products that mails show. */
export const catalog: TargetDefinition = {
  label: 'Product catalog',
  one: 'product',
  many: 'products',
  description: 'The products that emails show.',
  usualName: 'catalog',
  key: 'sku',
  fields: [
    field(
      'sku',
      'SKU',
      'text',
      'sku key articleno articlenumber artno artnr artikelnr artikelnummer productid id itemid itemno code ean gtin reference ref',
      true,
    ),
    field(
      'name',
      'Name',
      'text',
      'name title productname producttitle bezeichnung artikelname nom',
      true,
    ),
    field('description', 'Description', 'text', 'description desc text beschreibung body'),
    field('url', 'Link', 'text', 'url link producturl producturl page address'),
    field('image', 'Picture', 'text', 'image picture img imageurl imagelink photo bild bildurl'),
    field('price', 'Price', 'number', 'price saleprice unitprice preis vk vkpreis prix amount'),
    field(
      'was_price',
      'Price before',
      'number',
      'wasprice oldprice regularprice listprice compareatprice rrp uvp strikeprice',
    ),
    field('currency', 'Currency', 'text', 'currency pricecurrency waehrung wahrung'),
    field('category', 'Category', 'text', 'category producttype type group kategorie warengruppe'),
    field('categories', 'Categories', 'list', 'categories collections kategorien'),
    field('brand', 'Brand', 'text', 'brand vendor maker manufacturer marke hersteller'),
    field('tags', 'Tags', 'list', 'tags labels keywords schlagworte'),
    field(
      'stock',
      'Stock',
      'number',
      'stock inventory qty quantity onhand bestand lager lagerbestand',
    ),
    field(
      'in_stock',
      'In stock',
      'boolean',
      'instock available availability verfuegbar verfugbar lieferbar',
    ),
    field('added_at', 'Added on', 'date', 'addedat added created createdat datefrom angelegt'),
  ],
  feeds: 'shared',
  isOwned: false,
  mode: 'whole',
  isNamed: true,
  formula: (name) => `catalog.${name}`,
  paths: (name) => [
    ['catalog', name],
    ['cart', 'lines', 'product'],
    ['order', 'lines', 'product'],
    ['orders', 'lines', 'product'],
  ],
  exampleFilter: 'price < 10 and in_stock',
  finish(record) {
    const { price, stock } = record;
    if (typeof price === 'number' && price < 0)
      return { field: 'price', message: 'A price cannot be below 0.' };
    if (record['in_stock'] === undefined && typeof stock === 'number')
      record['in_stock'] = stock > 0;
    return null;
  },
};
