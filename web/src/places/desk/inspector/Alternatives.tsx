import { memo } from 'react';
import { skipToken } from '@reduxjs/toolkit/query';
import { parsedFormula } from '@carafe/core/formula';
import { alternativeHolds, alternativesOf, type TemplateNode } from '@carafe/core/template';
import { api } from '../../../app/api';
import { useAppSelector } from '../../../app/store';
import { labelOf } from '../labelOf';
import { useEdit } from '../useEdit';
import { useNodeScope } from '../useNodeScope';
import classes from './Inspector.module.css';

/** What else may stand at the place of a node, side by side, each with its share of people. */
export const Alternatives = memo(function Alternatives({ node }: { node: TemplateNode }) {
  const template = useAppSelector((s) => s.desk.template);
  const { select } = useEdit();
  const { outer } = useNodeScope(node.id);
  const chain = template ? alternativesOf(template, node.id) : [];
  if (!template || chain.length < 2) return null;
  return (
    <div className={classes.alternatives} role="group" aria-label="Alternatives for this place">
      {chain.map((one, i) => (
        <button
          key={one.id}
          type="button"
          aria-pressed={one.id === node.id}
          onClick={() => select(one.id)}
        >
          <span className={classes.alternative}>{labelOf(one)}</span>
          <span className="quiet">
            {one.when === undefined ? 'otherwise' : i === 0 ? 'if' : 'else if'}
            {outer.frames.length === 0 && (
              <Share shop={template.shop} formula={alternativeHolds(chain, i)} />
            )}
          </span>
        </button>
      ))}
    </div>
  );
});

/** For which share of people a condition holds. */
function Share({ shop, formula }: { shop: string; formula: string }) {
  const isAsked = parsedFormula(formula).ok;
  const { data } = api.useAudienceQuery(isAsked ? { shop, formula } : skipToken);
  if (!data || data.of === 0) return null;
  const share = (100 * data.holds) / data.of;
  return <> · {share > 0 && share < 1 ? 'under 1' : Math.round(share)} %</>;
}
