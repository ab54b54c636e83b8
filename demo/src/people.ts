import { seeded } from './random';

export interface DemoPerson {
  shop: string;
  email: string;
  first_name: string;
  last_name: string;
  locale: string;
  timezone: string;
  country: string;
  city: string;
  consent: boolean;
  consent_at: string;
  consent_how: string;
  joined: string;
  tags: string;
  guest: boolean;
  favourite_month: string;
}

interface Region {
  shop: string;
  locale: string;
  timezone: string;
  country: string;
  first: string[];
  last: string[];
  cities: string[];
}

const REGIONS: (Region & { count: number })[] = [
  {
    count: 1250,
    shop: 'quillmoss-gb',
    locale: 'en-GB',
    timezone: 'Europe/London',
    country: 'GB',
    first:
      'Maud Oswin Tamsin Edith Hugh Beatrix Alder Nell Rufus Imogen Perry Winifred Clem Ottoline Jago Hester'.split(
        ' ',
      ),
    last: 'Fennimore Askew Thistlewood Marlpit Greenhalgh Pettigrew Oakshott Lovage Wainfleet Dunmore Sallow O’Hara'.split(
      ' ',
    ),
    cities: ['Hexham', 'Ludlow', 'Whitby', 'Frome', 'Kelso', 'Totnes', 'Louth', 'Brecon'],
  },
  {
    count: 450,
    shop: 'quillmoss-eu',
    locale: 'de-DE',
    timezone: 'Europe/Berlin',
    country: 'DE',
    first:
      'Annelie Jost Friederike Wieland Mathilde Karsten Ottilie Henrike Falk Rosalie Veit Luise'.split(
        ' ',
      ),
    last: 'Birkenfeld Holunder Kranichstein Moosbach Lindenau Vogelsang Wiesner Haselhorst Quendel Rotdorn'.split(
      ' ',
    ),
    cities: ['Görlitz', 'Lüneburg', 'Passau', 'Celle', 'Tübingen'],
  },
  {
    count: 300,
    shop: 'quillmoss-eu',
    locale: 'fr-FR',
    timezone: 'Europe/Paris',
    country: 'FR',
    first: 'Odile Bastien Clémence Florimond Apolline Gaspard Noémie Séverin Héloïse Anatole'.split(
      ' ',
    ),
    last: 'Charmille Vaubois Clairefontaine Roselière Lavandou Bruyère Sansonnet Aubépin'.split(
      ' ',
    ),
    cities: ['Uzès', 'Annecy', 'Vannes', 'Cahors', 'Colmar'],
  },
];

const DAY = 86_400_000;
const HOW = ['Form on the home page', 'Ticked at checkout', 'Card at the seed swap'];
const MONTHS = ['March', 'April', 'May', 'September', 'October'];

function address(first: string, last: string, number: number): string {
  const plain = `${first}.${last}`
    .normalize('NFD')
    .toLowerCase()
    .replace(/[^a-z.]/g, '');
  return `${plain}${number}@post.example`;
}

/** 2,000 people in two shops; the first of each shop are always the same, for tests and pictures. */
export function makePeople(asOf: Date): DemoPerson[] {
  const r = seeded(2);
  return REGIONS.flatMap(({ count, shop, locale, timezone, country, first, last, cities }) =>
    Array.from({ length: count }, (_, i): DemoPerson => {
      const guest = i > 3 && r.chance(0.15);
      const nameless = i === 1 || (i > 3 && (r.chance(0.06) || (guest && r.chance(0.6))));
      const firstName = i === 0 ? (first[0] ?? '') : r.pick(first);
      const lastName = i === 0 ? (last[0] ?? '') : r.pick(last);
      const city = r.chance(0.2) ? '' : r.pick(cities);
      const consent = i < 4 || (!guest && r.chance(0.72));
      const joined = new Date(asOf.getTime() - r.whole(1, 900) * DAY).toISOString();
      return {
        shop,
        email: address(firstName, lastName, i + 1),
        first_name: nameless ? '' : r.chance(0.08) && i > 3 ? firstName.toLowerCase() : firstName,
        last_name: nameless ? '' : lastName,
        locale,
        timezone,
        country,
        city,
        consent,
        consent_at: consent ? joined : '',
        consent_how: consent ? (HOW[i % HOW.length] ?? '') : '',
        joined,
        tags: [
          r.chance(0.3) ? 'Allotment' : '',
          r.chance(0.2) ? 'Seed swap' : '',
          r.chance(0.1) ? 'Trade' : '',
        ]
          .filter(Boolean)
          .join('|'),
        guest,
        favourite_month: r.chance(0.5) ? r.pick(MONTHS) : '',
      };
    }),
  );
}
