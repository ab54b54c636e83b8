import { useMemo } from 'react';
import { UnstyledButton } from '@mantine/core';
import { Link } from 'react-router';
import type { SourceSummary } from '@carafe/contract';
import { dataRead, rootsRead, sayWeight } from '@carafe/core/check';
import { templateSites } from '@carafe/core/site';
import { nodeNames, type Template } from '@carafe/core/template';
import { api } from '../../../app/api';
import { useDeskState } from '../../../app/store';
import { useNow } from '../../../app/useNow';
import { ago } from '../../../parts/ago';
import { counted } from '@carafe/core/words';
import { SeverityIcon } from '../../../parts/Findings';
import { useDesk } from '../useDesk';
import { useEdit } from '../useEdit';
import { narrowedTo } from '../narrowed';
import classes from './Inspector.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

const HAVING = { all: '', cart: ' with a cart', order: ' with an order' };
/** What data is called, and which sources feed it. */
const FED_BY: Record<string, SourceSummary['target'][]> = {
  person: ['people'],
  cart: ['carts', 'events'],
  order: ['orders', 'events'],
  catalog: ['catalog'],
  feeds: ['feed'],
  coupon: ['coupons'],
};
const MOST_FINDINGS = 6;

/** The sources that a template reads, of those of its shop and of every shop. */
function sourcesRead(template: Template, sources: readonly SourceSummary[]): SourceSummary[] {
  const sites = templateSites(template);
  const kinds = dataRead(sites);
  const roots = rootsRead(sites);
  const named = JSON.stringify(template);
  return sources.filter(({ shop, target, formula_name }) => {
    if (shop !== null && shop !== template.shop) return false;
    const isRead = kinds.some((kind) => FED_BY[kind]?.includes(target));
    if (target !== 'catalog' && target !== 'feed') return isRead;
    const root = target === 'catalog' ? 'catalog' : 'feeds';
    return roots.has(root) && named.includes(`${root}.${formula_name}`);
  });
}

/** The template in a few facts, while no part of it is selected. */
export function AtAGlance({ template }: { template: Template }) {
  const { weight, findings } = useDesk();
  const { total, having, search, filter } = useDeskState('total', 'having', 'search', 'filter');
  const narrowed = narrowedTo(search, filter);
  const { data } = api.useSourcesQuery();
  const { select } = useEdit();
  const now = useNow();
  const sources = sourcesRead(template, data?.sources ?? []);
  const nameOf = useMemo(() => nodeNames(template), [template]);
  const sorted = [...findings].sort(
    (a, b) => Number(b.severity === 'error') - Number(a.severity === 'error'),
  );
  return (
    <div className={classes.glance}>
      <h2 className={classes.title}>{t('thisTemplate')}</h2>
      <dl>
        <dt>{t('for2')}</dt>
        <dd>
          {counted(total, 'person', 'people')}
          {HAVING[having]}
          {narrowed !== '' && `: ${narrowed}`}
        </dd>
        <dt>{t('reads')}</dt>
        <dd>
          {sources.length === 0 && t('nothingFromASource')}
          {sources.map(({ id, name, last_import_at }) => (
            <div key={id}>
              <Link to={`/sources/${id}`}>{name}</Link>{' '}
              <span className="quiet">
                {last_import_at ? ago(last_import_at, now) : t('nothingInItYet')}
              </span>
            </div>
          ))}
        </dd>
        <dt>{t('weighs')}</dt>
        <dd className="figures">
          {weight === null ? '…' : t('weightForThisRecipient', { weight: sayWeight(weight) })}
        </dd>
        <dt>{t('findings')}</dt>
        <dd>
          {findings.length === 0 ? t('none') : counted(findings.length, 'finding')}
          {sorted.slice(0, MOST_FINDINGS).map(({ node, path, severity, message }, i) => (
            <UnstyledButton
              key={`${node} ${message} ${i}`}
              className={classes.found}
              onClick={() => select(node === '' ? 'envelope' : node)}
            >
              <SeverityIcon severity={severity} />
              <span>
                <strong>{nameOf(node, path)}</strong> {message}
              </span>
            </UnstyledButton>
          ))}
          {findings.length > MOST_FINDINGS && (
            <p className="quiet">
              {t('andNumberMoreMarkedInThe', { number: findings.length - MOST_FINDINGS })}
            </p>
          )}
        </dd>
      </dl>
      <p className="quiet">{t('selectAPartOfTheEmail')}</p>
    </div>
  );
}
