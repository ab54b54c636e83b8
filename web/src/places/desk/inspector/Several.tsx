import { UnstyledButton } from '@mantine/core';
import { isBlock, type TemplateNode } from '@carafe/core/template';
import { counted } from '@carafe/core/words';
import { KindIcon } from '../KindIcon';
import { labelOf } from '../labelOf';
import { useEdit } from '../useEdit';
import { NodeActions } from './NodeActions';
import classes from './Inspector.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/** Several parts that are selected: which, and what can be done with all of them. */
export function Several({ nodes }: { nodes: readonly TemplateNode[] }) {
  const { select } = useEdit();
  return (
    <>
      <div className={classes.head}>
        <h2 className={classes.title}>
          {t('partsSelected', { parts: counted(nodes.length, 'part') })}
        </h2>
        <NodeActions />
      </div>
      <ul className={classes.several}>
        {nodes.map((node) => (
          <li key={node.id}>
            <KindIcon kind={node.kind} />
            <UnstyledButton fz={13} onClick={() => select(node.id)} title={t('selectOnlyThis')}>
              {labelOf(node)}
            </UnstyledButton>
          </li>
        ))}
      </ul>
      <p className="quiet">
        {t('theyAreMovedCopiedDuplicatedAnd')}
        {nodes.every(isBlock) && t('toGiveThemOneConditionOr')}
      </p>
    </>
  );
}
