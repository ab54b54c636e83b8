type Node = Record<string, unknown>;

const isNode = (value: unknown): value is Node =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const list = (value: unknown): unknown[] =>
  value === undefined || value === null ? [] : Array.isArray(value) ? value : [value];

function hasType(node: Node, type: string): boolean {
  return list(node['@type']).some(
    (t) => typeof t === 'string' && t.replace(/^https?:\/\/schema\.org\//, '') === type,
  );
}

/** All nodes of a type in a JSON-LD document, wherever they stand, in reading order. */
function nodesOf(document: unknown, type: string, depth = 0): Node[] {
  if (depth > 12) return [];
  if (Array.isArray(document))
    return document.flatMap((member) => nodesOf(member, type, depth + 1));
  if (!isNode(document)) return [];
  if (hasType(document, type)) return [document];
  return Object.values(document).flatMap((inside) => nodesOf(inside, type, depth + 1));
}

/** Text of a value that may be text, a node with a name, an address or a list of those. */
function said(value: unknown): string | undefined {
  const [first] = list(value);
  if (typeof first === 'string' || typeof first === 'number') return String(first);
  if (!isNode(first)) return undefined;
  return said(first['name'] ?? first['url'] ?? first['contentUrl'] ?? first['@id']);
}
/** A number; what is none stays as it is written, to be told where the row is read. */
function figure(value: unknown): number | string | undefined {
  const [first] = list(value);
  const number = typeof first === 'string' && first.trim() !== '' ? Number(first) : first;
  if (typeof number === 'number') return Number.isFinite(number) ? number : String(first);
  return typeof first === 'string' ? first : undefined;
}
/** Where a picture or a page is: as text, or as a node that may have a name beside it. */
function address(value: unknown): string | undefined {
  const [first] = list(value);
  return isNode(first) ? said(first['url'] ?? first['contentUrl'] ?? first['@id']) : said(first);
}
/** An offer's own price, or the one that is specified for it. */
function priced(offer: Node): { price?: unknown; priceCurrency?: unknown } {
  const [specified = {}] = list(offer['priceSpecification']).filter(isNode);
  return {
    price: offer['price'] ?? offer['lowPrice'] ?? specified['price'],
    priceCurrency: offer['priceCurrency'] ?? specified['priceCurrency'],
  };
}
const lastPart = (value: unknown): string | undefined => said(value)?.replace(/^.*[/#]/, '');

/** Leaves out what is not there. */
function filled(record: Node): Node {
  return Object.fromEntries(Object.entries(record).filter(([, value]) => value !== undefined));
}

function product(node: Node): Node {
  const offer = list(node['offers']).filter(isNode)[0] ?? {};
  const { price, priceCurrency } = priced(offer);
  const availability = lastPart(offer['availability']);
  const category = said(node['category']);
  return filled({
    sku: said(
      node['sku'] ??
        node['productID'] ??
        node['gtin13'] ??
        node['gtin'] ??
        node['mpn'] ??
        node['@id'],
    ),
    name: said(node['name']),
    description: said(node['description']),
    url: address(node['url'] ?? offer['url']),
    image: address(node['image']),
    price: figure(price),
    currency: said(priceCurrency),
    category,
    brand: said(node['brand']),
    in_stock:
      availability && /^(InStock|LimitedAvailability|PreOrder|OnlineOnly)$/.test(availability),
  });
}

function line(node: Node): Node {
  const item = list(node['orderedItem'] ?? node['itemOffered'] ?? node['item'])[0];
  const thing = isNode(item) ? item : node;
  const quantity = figure(
    node['orderQuantity'] ??
      (isNode(node['eligibleQuantity']) ? node['eligibleQuantity']['value'] : undefined),
  );
  const [offer = {}] = list(thing['offers']).filter(isNode);
  const price = figure(priced(node).price ?? priced(offer).price);
  return filled({
    sku: said(thing['sku'] ?? thing['productID']),
    name: said(thing['name']),
    image: address(thing['image']),
    url: address(thing['url']),
    price,
    quantity: quantity ?? 1,
  });
}

function order(node: Node): Node {
  const customer = list(node['customer']).filter(isNode)[0] ?? {};
  const lines = [...list(node['acceptedOffer']), ...list(node['orderedItem'])]
    .filter(isNode)
    .map(line);
  return filled({
    number: said(node['orderNumber']),
    email: said(customer['email'])?.replace(/^mailto:/, ''),
    placed_at: said(node['orderDate']),
    status: lastPart(node['orderStatus'])?.replace(/^Order/, ''),
    currency: said(
      node['priceCurrency'] ?? list(node['acceptedOffer']).filter(isNode)[0]?.['priceCurrency'],
    ),
    total: figure(node['price']),
    discount: figure(node['discount']),
    lines,
  });
}

/** Products of a schema.org document (schema.org/Product), in the words of Carafe's catalog. */
export function productsIn(document: unknown): Node[] {
  return nodesOf(document, 'Product').map(product);
}

/** Orders of a schema.org document (schema.org/Order), in the words of Carafe's orders. */
export function ordersIn(document: unknown): Node[] {
  return nodesOf(document, 'Order').map(order);
}

/** Whether a document is JSON-LD of schema.org. */
export function isJsonLd(document: unknown): boolean {
  const [first] = list(document);
  return isNode(first) && /schema\.org/.test(JSON.stringify(first['@context'] ?? ''));
}
