import { memo, useDeferredValue, useMemo, type KeyboardEvent } from 'react';
import { ActionIcon, ScrollArea, Tooltip } from '@mantine/core';
import { IconArrowDown, IconArrowUp, IconCopy, IconTrash } from '@tabler/icons-react';
import { changeSite } from '@carafe/core/site';
import { findNode, itemsOf, kindOf, type TemplateNode } from '@carafe/core/template';
import { useAppSelector, useDeskState } from '../../../app/store';
import { Findings } from '../../../parts/Findings';
import { ScopeProvider } from '../../../parts/words/scope';
import { focusMail, focusMailIfLost } from '../focusMail';
import { KindIcon } from '../KindIcon';
import { useDesk } from '../useDesk';
import type { DeskFinding } from '../useFindings';
import { useEdit } from '../useEdit';
import { moveTarget, useNodeActions } from '../useNodeActions';
import { useNodeScope } from '../useNodeScope';
import { Alternatives } from './Alternatives';
import { AtAGlance } from './AtAGlance';
import { ConditionForm } from './ConditionForm';
import { EnvelopeForm } from './EnvelopeForm';
import { LoopForm } from './LoopForm';
import { hasPart, NodeForm } from './NodeForm';
import { Part } from './Part';
import classes from './Inspector.module.css';

/** Escape leads from a field back to the mail, where the keys of the desk work. */
function leave(event: KeyboardEvent<HTMLElement>): void {
  const { key, defaultPrevented, target, currentTarget } = event;
  // What opens over the page belongs to the inspector, and has an Escape of its own.
  if (key !== 'Escape' || defaultPrevented || !currentTarget.contains(target as Node)) return;
  event.preventDefault();
  focusMail();
}

/** What is selected, in one column: what it says, what fills it, when it shows, how it looks. */
export function Inspector() {
  const { template, selected } = useDeskState('template', 'selected');
  if (!template) return null;
  const place = selected && selected !== 'envelope' ? findNode(template, selected) : undefined;
  return (
    <aside className={classes.pane} aria-label="Inspector" data-template-form onKeyDown={leave}>
      <ScrollArea h="100%" type="auto" viewportProps={{ tabIndex: -1 }}>
        <div className={classes.column}>
          {place ? (
            <NodeInspector key={place.node.id} node={place.node} />
          ) : selected === 'envelope' ? (
            <EnvelopeInspector />
          ) : (
            <AtAGlance template={template} />
          )}
        </div>
      </ScrollArea>
    </aside>
  );
}

function EnvelopeInspector() {
  const { findings } = useDesk();
  return (
    <>
      <h2 className={classes.title}>Envelope and style</h2>
      <NodeFindings findings={findings.filter((f) => f.node === '')} />
      <EnvelopeForm />
    </>
  );
}

/**
 * A node for the forms of its condition and its lists. What is written elsewhere in it follows when there is time;
 * what these forms show is never late, for it is typed there.
 */
function useRest(node: TemplateNode): TemplateNode {
  const before = useDeferredValue(node);
  const isSame =
    before.when === node.when &&
    before.else === node.else &&
    before.loop === node.loop &&
    itemsOf(before) === itemsOf(node);
  return isSame ? before : node;
}

function NodeInspector({ node }: { node: TemplateNode }) {
  const { findings } = useDesk();
  const { inner, outer } = useNodeScope(node.id);
  const later = useRest(node);
  return (
    <>
      <div className={classes.head}>
        <KindIcon kind={node.kind} />
        <h2 className={classes.title}>{kindOf(node).name}</h2>
        <NodeActions id={node.id} />
      </div>
      <Alternatives node={later} />
      <NodeFindings findings={findings.filter((f) => f.node === node.id)} />
      {hasPart(node, 'content') && (
        <Part title="Content">
          <NodeForm node={node} part="content" />
        </Part>
      )}
      {itemsOf(node) && (
        <Part title="Data">
          <LoopForm node={later} at="items" scope={inner} />
        </Part>
      )}
      <ScopeProvider value={outer}>
        <Part title="Condition">
          <ConditionForm node={later} scope={outer} />
        </Part>
        <Part title="Repeat" closed={!node.loop}>
          <LoopForm node={later} at="loop" scope={outer} />
        </Part>
      </ScopeProvider>
      {hasPart(node, 'looks') && (
        <Part title="Style" closed>
          <NodeForm node={node} part="looks" />
        </Part>
      )}
    </>
  );
}

const NodeActions = memo(function NodeActions({ id }: { id: string }) {
  const { move, duplicate, remove } = useNodeActions();
  const template = useDeferredValue(useAppSelector((s) => s.desk.template));
  const [isFirst, isLast] = useMemo(
    () =>
      ([-1, 1] as const).map((by) => template === null || moveTarget(template, id, by) === null),
    [template, id],
  );
  const button = (
    label: string,
    ButtonIcon: typeof IconCopy,
    run: () => void,
    disabled = false,
  ) => (
    <Tooltip label={label}>
      <ActionIcon variant="subtle" size="sm" aria-label={label} onClick={run} disabled={disabled}>
        <ButtonIcon size={15} />
      </ActionIcon>
    </Tooltip>
  );
  return (
    <span className={classes.actions}>
      {button('Move up (Alt+↑)', IconArrowUp, () => move(id, -1), isFirst)}
      {button('Move down (Alt+↓)', IconArrowDown, () => move(id, 1), isLast)}
      {button('Duplicate (Ctrl+D)', IconCopy, () => duplicate())}
      {button('Delete (Del)', IconTrash, () => remove())}
    </span>
  );
});

function NodeFindings({ findings }: { findings: DeskFinding[] }) {
  const { change } = useEdit();
  const template = useAppSelector((s) => s.desk.template);
  const repair = (finding: DeskFinding) => {
    const { repair: mend, node: id, path } = finding;
    if (!mend || !template) return;
    change('Repair a formula', (draft) => {
      changeSite(
        draft,
        { node: id, path },
        (source) => source.slice(0, mend.start) + mend.text + source.slice(mend.end),
      );
    });
    // The button that was pressed goes with the finding.
    requestAnimationFrame(focusMailIfLost);
  };
  if (findings.length === 0) return null;
  return (
    <div className={classes.findings}>
      <Findings findings={findings} onRepair={repair} />
    </div>
  );
}
