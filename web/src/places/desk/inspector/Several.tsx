import { UnstyledButton } from '@mantine/core';
import { isBlock, type TemplateNode } from '@carafe/core/template';
import { counted } from '@carafe/core/words';
import { KindIcon } from '../KindIcon';
import { labelOf } from '../labelOf';
import { useEdit } from '../useEdit';
import { NodeActions } from './NodeActions';
import classes from './Inspector.module.css';

/** Several parts that are selected: which, and what can be done with all of them. */
export function Several({ nodes }: { nodes: readonly TemplateNode[] }) {
  const { select } = useEdit();
  return (
    <>
      <div className={classes.head}>
        <h2 className={classes.title}>{counted(nodes.length, 'part')} selected</h2>
        <NodeActions />
      </div>
      <ul className={classes.several}>
        {nodes.map((node) => (
          <li key={node.id}>
            <KindIcon kind={node.kind} />
            <UnstyledButton fz={13} onClick={() => select(node.id)} title="Select only this">
              {labelOf(node)}
            </UnstyledButton>
          </li>
        ))}
      </ul>
      <p className="quiet">
        They are moved, copied, duplicated and deleted together.
        {nodes.every(isBlock) && ' To give them one condition or one loop, group them first.'}
      </p>
    </>
  );
}
