import { build, type Built } from '@carafe/core/build';
import { CHECKS, runChecks, type CheckFinding } from '@carafe/core/checks';
import { fieldOf, isRecord, type Fields } from '@carafe/core/formula';
import { ShapeBuilder, type Shape } from '@carafe/core/shape';
import { templateSites } from '@carafe/core/site';
import { nodeNames, type Template } from '@carafe/core/template';
import {
  coverageOf,
  largestFirst,
  sayVariant,
  Surveyor,
  usualBits,
  type Survey,
} from '@carafe/core/variant';
import { counted } from '@carafe/core/words';
import { dayGiven, RecordsIn, templateIn } from './cliFiles';
import { withLibrary, type LibraryFlags } from './cliLibrary';
import { UsageError } from './usageError';

export interface CheckFlags extends LibraryFlags {
  template: string;
  records: string;
  asOf?: string;
  format: string;
}

interface Looked {
  template: Template;
  built: Built;
  survey: Survey;
  shape: Shape;
  products: Map<string, Fields>;
  /** The records that all share: what one of them says of the shop’s codes. */
  coupons: Fields | null;
  asOf: Date;
  /** Lines that could not be read. */
  failed: number;
}

/** Remembers the products that a record’s catalogs and picks hold. */
function keepProducts(record: Fields, products: Map<string, Fields>): void {
  for (const root of ['catalog', 'picks']) {
    const lists = fieldOf(record, root);
    if (!isRecord(lists)) continue;
    for (const list of Object.values(lists))
      for (const product of Array.isArray(list) ? (list as unknown[]) : []) {
        const sku = isRecord(product) ? fieldOf(product, 'sku') : undefined;
        if (typeof sku === 'string' && !products.has(sku)) products.set(sku, product as Fields);
      }
  }
}

/** Fills a template for every record of a file, one after the other; memory holds what was counted alone. */
async function look(flags: CheckFlags): Promise<Looked> {
  const { template: path, records: file, asOf: day } = flags;
  const template = withLibrary(templateIn(path), flags);
  const asOf = dayGiven(day);
  const built = await build(template, { keepsAddresses: true });
  const expectations = (template.expectations ?? []).map(({ formula }) => formula);
  const surveyor = new Surveyor(template, built.program, { expectations });
  const shape = new ShapeBuilder();
  const products = new Map<string, Fields>();
  let coupons: Fields | null = null;
  const records = new RecordsIn(file);
  for await (const { line, record } of records.read()) {
    surveyor.look(line, record, asOf);
    shape.add(record);
    keepProducts(record, products);
    const own = fieldOf(record, 'coupon');
    if (isRecord(own)) coupons ??= own;
  }
  return {
    ...{ template, built, survey: surveyor.survey(), shape: shape.shape() },
    ...{ products, coupons, asOf, failed: records.failed },
  };
}

/** The shape of a mail: a line is what a record stands at. */
const where = (line: number | undefined) => (line === undefined ? '' : ` (line ${line})`);

/** The findings as SARIF 2.1.0, which code hosts and pipelines read. */
function sarif(findings: readonly CheckFinding[], path: string): object {
  const level = { error: 'error', warning: 'warning', hint: 'note' } as const;
  return {
    $schema: 'https://json.schemastore.org/sarif-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: {
          driver: {
            name: 'Carafe',
            rules: CHECKS.map(({ name, label }) => ({
              id: name,
              shortDescription: { text: label },
            })),
          },
        },
        results: findings.map(({ check, severity, node, path: at, message }) => ({
          ...{ ruleId: check, level: level[severity], message: { text: message } },
          locations: [
            {
              physicalLocation: { artifactLocation: { uri: path } },
              logicalLocations: [{ fullyQualifiedName: [node || 'envelope', at].join('/') }],
            },
          ],
        })),
      },
    ],
  };
}

/** `carafe check`: gives the exit code, 1 where there are errors. */
export async function checkFiles(flags: CheckFlags): Promise<number> {
  if (!['text', 'json', 'sarif'].includes(flags.format))
    throw new UsageError(`--format must be text, json or sarif, not “${flags.format}”.`);
  const { template, built, survey, shape, products, coupons, asOf, failed } = await look(flags);
  const findings = runChecks({
    ...{ template, shape, survey, products, coupons, now: asOf, built: built.findings },
    ...{ sites: templateSites(template), coverage: coverageOf(template, survey) },
    ...{ sentAs: null, sources: [], pictures: null, hasProduct: null },
  });
  const { people } = survey;
  if (flags.format === 'json') console.log(JSON.stringify({ people, findings }, null, 2));
  else if (flags.format === 'sarif')
    console.log(JSON.stringify(sarif(findings, flags.template), null, 2));
  else {
    const nameOf = nodeNames(template);
    for (const { severity, check, node, message, person } of findings)
      console.log(`${severity}: ${nameOf(node)}: ${message}${where(person)} [${check}]`);
    console.log(`${counted(people, 'record')} filled, ${counted(findings.length, 'finding')}.`);
  }
  return failed > 0 || findings.some(({ severity }) => severity === 'error') ? 1 : 0;
}

/** `carafe variants`: the different mails that records come to, the most usual first. */
export async function variantsOf(flags: CheckFlags): Promise<number> {
  if (!['text', 'json'].includes(flags.format))
    throw new UsageError(`--format must be text or json, not “${flags.format}”.`);
  const { template, survey, failed } = await look(flags);
  const usual = usualBits(survey.variants, survey.decisions.length);
  const nameOf = nodeNames(template);
  const all = largestFirst(survey.variants).map((one) => ({
    words: sayVariant(one, usual, survey.decisions, nameOf),
    ...{ records: one.people, first_line: one.person },
  }));
  if (flags.format === 'json') console.log(JSON.stringify(all, null, 2));
  else
    for (const { words, records, first_line } of all)
      console.log(`${String(records).padStart(7)}  ${words}${where(first_line)}`);
  return failed > 0 ? 1 : 0;
}
