import { rootsRead } from '../reads';
import { defineCheck } from '../define';

export const staleSource = defineCheck({
  name: 'stale_source',
  label: 'What the email reads is fresh',
  find({ sites, sources }) {
    const roots = rootsRead(sites);
    return sources
      .filter(({ root }) => {
        const [kind = '', name] = root.split('.');
        if (!roots.has(kind)) return false;
        return name === undefined || sites.some(({ source }) => source.includes(root));
      })
      .map(({ name, problem, root }) => ({
        ...{ severity: 'warning' as const, path: root },
        node: sites.find(({ source }) => source.includes(root))?.node ?? '',
        message: `The source “${name}”, which this email reads, ${problem}.`,
      }));
  },
});
