import type { BuildFinding } from '@carafe/core/build';
import { changeSite, templateSites } from '@carafe/core/site';
import { changeNode, edit, walkNodes, type Template } from '@carafe/core/template';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

const IN_TEXT = /^text\.\d+/;
/** Stands for a condition that there is none of. */
const ALWAYS = '';
const PLACE = t('theEmailShowsTheLastVersion');

/**
 * Keeps, for every place that holds a formula, the last source that could be read: while something is
 * typed, the mail stays as it was and no condition falls over.
 */
export class LastGood {
  private readonly known = new Map<string, string>();

  /** The template with what can be read in every place where that is known, and what is said of those places. */
  of(template: Template): { template: Template; findings: BuildFinding[] } {
    const findings: BuildFinding[] = [];
    const broken: { node: string; path: string; source: string }[] = [];
    for (const { node, path, parsed, source } of templateSites(template)) {
      // Words of a text move while it is written: there is no telling which tag was which.
      if (IN_TEXT.test(path)) continue;
      const place = `${node} ${path}`;
      if (parsed.ok) {
        this.known.set(place, source);
        continue;
      }
      const before = this.known.get(place);
      if (before === undefined) continue;
      broken.push({ node, path, source: before });
      findings.push({ severity: 'warning', node, path, message: PLACE });
    }
    walkNodes(template, ({ node }) => {
      // Where there is no condition, what could be read last is that it shows always.
      if (node.when === undefined) this.known.set(`${node.id} when`, ALWAYS);
    });
    const mended = edit(template, 'Last that could be read', (draft) => {
      for (const { source, ...site } of broken) {
        if (source !== ALWAYS) changeSite(draft, site, () => source);
        else changeNode(draft, site.node, (node) => void delete node.when);
      }
    });
    return { template: mended?.template ?? template, findings };
  }
}
