import { memo } from 'react';
import { skipToken } from '@reduxjs/toolkit/query';
import { parsedFormula } from '@carafe/core/formula';
import { alternativeHolds, alternativesOf, type TemplateNode } from '@carafe/core/template';
import type { Coverage } from '@carafe/core/variant';
import { figure } from '@carafe/core/words';
import { api } from '../../../app/api';
import { useAppSelector } from '../../../app/store';
import { useEveryone } from '../everyone/useSurvey';
import { labelOf } from '../labelOf';
import { useEdit } from '../useEdit';
import { useNodeScope } from '../useNodeScope';
import classes from './Inspector.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/**
 * What else may stand at the place of a node, side by side, each with how many it reaches: of those who get the mail
 * where they were counted, of all people elsewhere.
 */
export const Alternatives = memo(function Alternatives({ node }: { node: TemplateNode }) {
  const template = useAppSelector((s) => s.desk.template);
  const { whole } = useEveryone();
  const { select } = useEdit();
  const { outer } = useNodeScope(node.id);
  const chain = template ? alternativesOf(template, node.id) : [];
  if (!template || chain.length < 2) return null;
  return (
    <div className={classes.alternatives} role="group" aria-label={t('alternativesHere')}>
      {chain.map((one, i) => (
        <button
          key={one.id}
          type="button"
          aria-pressed={one.id === node.id}
          onClick={() => select(one.id)}
        >
          <span className={classes.alternative}>{labelOf(one)}</span>
          <span className="quiet">
            {one.when === undefined ? 'otherwise' : i === 0 ? t('if') : t('elseIf')}
            {whole ? (
              <Reach coverage={whole} node={one.id} />
            ) : (
              outer.frames.length === 0 && (
                <Share shop={template.shop} formula={alternativeHolds(chain, i)} />
              )
            )}
          </span>
        </button>
      ))}
    </div>
  );
});

/** How many of those who get the mail see a node. */
function Reach({ coverage, node }: { coverage: Coverage; node: string }) {
  const reached = coverage.nodes.find((one) => one.node === node)?.people;
  if (reached === undefined || coverage.people === 0) return null;
  return (
    <> {t('reachedOfPeople', { reached: figure(reached), people: figure(coverage.people) })}</>
  );
}

/** For which share of all people a condition holds. */
function Share({ shop, formula }: { shop: string; formula: string }) {
  const isAsked = parsedFormula(formula).ok;
  const { data } = api.useAudienceQuery(isAsked ? { shop, formula } : skipToken);
  if (!data || data.of === 0) return null;
  const share = (100 * data.holds) / data.of;
  return (
    <> {t('whichOfAll', { which: share > 0 && share < 1 ? t('under1') : Math.round(share) })}</>
  );
}
