import type { CellKind } from '../formats/cells';

/** What a source can feed. */
export const TARGETS = [
  'catalog',
  'people',
  'carts',
  'orders',
  'events',
  'feed',
  'coupons',
  'notes',
] as const;
export type TargetId = (typeof TARGETS)[number];

/** A field that formulas know by name, with the names that files give it. */
export interface TargetField {
  name: string;
  label: string;
  kind: CellKind;
  required?: boolean;
  /** Other names in files, folded: lower case, letters and digits only. */
  alike: string;
}

export interface Target {
  id: TargetId;
  /** As a designer names it. */
  label: string;
  /** One of its rows, and many. */
  one: string;
  many: string;
  /** The field that tells rows apart. */
  key: string;
  fields: TargetField[];
  /** The fields of a line, where rows hold lines. */
  line?: TargetField[];
}

const field = (
  name: string,
  label: string,
  kind: CellKind = 'text',
  alike = '',
  required = false,
): TargetField => ({ name, label, kind, alike, ...(required && { required }) });

const LINE = [
  field('sku', 'SKU', 'text', 'sku articleno artikelnummer productid itemid code'),
  field('name', 'Name', 'text', 'name title product item artikel bezeichnung'),
  field('variant', 'Variant', 'text', 'variant option size variante'),
  field('image', 'Picture', 'text', 'image picture img imageurl bild'),
  field('url', 'Link', 'text', 'url link'),
  field('category', 'Category', 'text', 'category type kategorie'),
  field('price', 'Price', 'number', 'price unitprice preis einzelpreis'),
  field('quantity', 'Quantity', 'number', 'quantity qty menge anzahl count'),
  field('total', 'Line total', 'number', 'total linetotal summe'),
  field('properties', 'Properties', 'any', 'properties options'),
];

const CATALOG: Target = {
  id: 'catalog',
  label: 'Product catalog',
  one: 'product',
  many: 'products',
  key: 'sku',
  fields: [
    field(
      'sku',
      'SKU',
      'text',
      'sku articleno articlenumber artno artnr artikelnr artikelnummer productid id itemid itemno code ean gtin reference ref',
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
};

const PEOPLE: Target = {
  id: 'people',
  label: 'People',
  one: 'person',
  many: 'people',
  key: 'email',
  fields: [
    field(
      'email',
      'Email address',
      'text',
      'email mail emailaddress mailaddress emailadresse contact',
      true,
    ),
    field('first_name', 'First name', 'text', 'firstname givenname forename vorname prenom'),
    field('last_name', 'Last name', 'text', 'lastname surname familyname nachname nom'),
    field('locale', 'Language and country', 'text', 'locale language lang sprache'),
    field('timezone', 'Time zone', 'text', 'timezone tz'),
    field('country', 'Country', 'text', 'country countrycode land'),
    field('city', 'City', 'text', 'city town ort stadt'),
    field(
      'consent',
      'Consent to marketing',
      'boolean',
      'consent optin subscribed newsletter marketing acceptsmarketing einwilligung',
    ),
    field(
      'consent_at',
      'Consent given on',
      'date',
      'consentat consentdate optinat optindate subscribedat einwilligungam',
    ),
    field(
      'consent_how',
      'Consent given how',
      'text',
      'consenthow consentsource optinsource how einwilligungwie',
    ),
    field(
      'joined',
      'Joined on',
      'date',
      'joined joinedat created createdat since signupdate registered kundeseit',
    ),
    field('tags', 'Tags', 'list', 'tags labels groups'),
    field('guest', 'Guest', 'boolean', 'guest isguest gast'),
  ],
};

const CARTS: Target = {
  id: 'carts',
  label: 'Carts',
  one: 'cart',
  many: 'carts',
  key: 'email',
  fields: [
    field('email', 'Email address', 'text', 'email mail customeremail emailaddress', true),
    field('id', 'Cart number', 'text', 'id cartid token cart'),
    field('started_at', 'Started at', 'date', 'startedat createdat created'),
    field('updated_at', 'Changed at', 'date', 'updatedat updated changedat lastactivity', true),
    field('currency', 'Currency', 'text', 'currency'),
    field('subtotal', 'Subtotal', 'number', 'subtotal'),
    field('discount', 'Discount', 'number', 'discount rabatt'),
    field('total', 'Total', 'number', 'total amount grandtotal summe'),
    field('recover_url', 'Link to the cart', 'text', 'recoverurl carturl checkouturl url link'),
    field('lines', 'Lines', 'any', 'lines items lineitems positions'),
  ],
  line: LINE,
};

const ORDERS: Target = {
  id: 'orders',
  label: 'Orders',
  one: 'order',
  many: 'orders',
  key: 'number',
  fields: [
    field(
      'number',
      'Order number',
      'text',
      'number ordernumber orderno orderid id bestellnummer auftrag',
      true,
    ),
    field('email', 'Email address', 'text', 'email mail customeremail emailaddress', true),
    field(
      'placed_at',
      'Placed at',
      'date',
      'placedat orderdate date created createdat bestelldatum',
      true,
    ),
    field('status', 'Status', 'text', 'status orderstatus state'),
    field('currency', 'Currency', 'text', 'currency waehrung'),
    field('subtotal', 'Subtotal', 'number', 'subtotal zwischensumme'),
    field('discount', 'Discount', 'number', 'discount rabatt'),
    field('shipping', 'Shipping', 'number', 'shipping postage versand versandkosten delivery'),
    field('tax', 'Tax', 'number', 'tax vat mwst'),
    field('total', 'Total', 'number', 'total amount grandtotal summe gesamt'),
    field('note', 'Note', 'text', 'note comment giftnote bemerkung'),
    field('pay_url', 'Link to pay', 'text', 'payurl paymentlink'),
    field('view_url', 'Link to the order', 'text', 'viewurl orderurl statusurl url link'),
    field('lines', 'Lines', 'any', 'lines items lineitems positions'),
  ],
  line: LINE,
};

const COUPONS: Target = {
  id: 'coupons',
  label: 'Coupon codes',
  one: 'code',
  many: 'codes',
  key: 'code',
  fields: [
    field('code', 'Code', 'text', 'code coupon couponcode voucher gutschein gutscheincode', true),
    field('policy', 'Policy', 'text', 'policy campaign kind group aktion', true),
    field('percent', 'Per cent off', 'number', 'percent percentoff discountpercent prozent'),
    field('amount', 'Amount off', 'number', 'amount value amountoff betrag'),
    field('value_text', 'Value in words', 'text', 'valuetext label'),
    field('expires_at', 'Expires on', 'date', 'expiresat expires validuntil expiry gueltigbis'),
  ],
};

const FEED: Target = {
  id: 'feed',
  label: 'Content feed',
  one: 'post',
  many: 'posts',
  key: 'guid',
  fields: [
    field('guid', 'Post id', 'text', 'guid id slug', true),
    field('title', 'Title', 'text', 'title headline titel', true),
    field('link', 'Link', 'text', 'link url address'),
    field('author', 'Author', 'text', 'author by writer autor'),
    field('published_at', 'Published at', 'date', 'publishedat published date pubdate datum'),
    field('summary', 'Summary', 'text', 'summary excerpt teaser'),
    field('content', 'Content', 'text', 'content body html text'),
    field('image', 'Picture', 'text', 'image picture img bild'),
    field('categories', 'Categories', 'list', 'categories tags topics'),
  ],
};

const NOTES: Target = {
  id: 'notes',
  label: 'Product notes',
  one: 'note',
  many: 'notes',
  key: 'about',
  fields: [
    field('about', 'SKU or category', 'text', 'about sku category product for', true),
    field('title', 'Title', 'text', 'title headline'),
    field('words', 'Words', 'text', 'words text note body', true),
    field('image', 'Picture', 'text', 'image picture img'),
    field('link', 'Link', 'text', 'link url'),
    field('status', 'With order status', 'text', 'status orderstatus'),
  ],
};

const EVENTS: Target = {
  id: 'events',
  label: 'Events',
  one: 'event',
  many: 'events',
  key: 'id',
  fields: [],
};

const BY_ID: Record<TargetId, Target> = {
  catalog: CATALOG,
  people: PEOPLE,
  carts: CARTS,
  orders: ORDERS,
  events: EVENTS,
  feed: FEED,
  coupons: COUPONS,
  notes: NOTES,
};

export function targetOf(id: TargetId): Target {
  return BY_ID[id];
}
