import { ActionIcon, ScrollArea, Tooltip } from '@mantine/core';
import { IconArrowDown, IconArrowUp, IconCopy, IconTrash } from '@tabler/icons-react';
import {
  BLOCKS,
  changeSlot,
  findNode,
  isBlock,
  type Block,
  type TemplateNode,
} from '@carafe/core/template';
import { useAppSelector } from '../../../app/store';
import { Findings } from '../../../parts/Findings';
import { ScopeProvider } from '../../../parts/words/scope';
import { KIND_ICON } from '../kinds';
import { useDesk, type DeskFinding } from '../useDesk';
import { useEdit } from '../useEdit';
import { useNodeActions } from '../useNodeActions';
import { useNodeScope } from '../useNodeScope';
import { BlockForm } from './BlockForm';
import { ConditionForm } from './ConditionForm';
import { EnvelopeForm } from './EnvelopeForm';
import { LoopForm } from './LoopForm';
import { LooksForm } from './LooksForm';
import { Part } from './Part';
import { SectionForm } from './SectionForm';
import classes from './Inspector.module.css';

/** What is selected, in one column: what it says, what fills it, when it shows, how it looks. */
export function Inspector() {
  const { template, selected } = useAppSelector((s) => s.desk);
  if (!template) return null;
  const place = selected && selected !== 'envelope' ? findNode(template, selected) : undefined;
  return (
    <aside className={classes.pane} aria-label="Inspector" data-template-form>
      <ScrollArea h="100%" type="auto" viewportProps={{ tabIndex: -1 }}>
        <div className={classes.column}>
          {place ? (
            <NodeInspector key={place.node.id} node={place.node} />
          ) : selected === 'envelope' ? (
            <EnvelopeInspector />
          ) : (
            <p className="quiet">
              Select something in the outline or in the mail. What it says, what fills it and when
              it shows stands here.
            </p>
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

function kindName(node: TemplateNode): string {
  if (node.kind === 'section') return 'Section';
  return node.kind === 'column' ? 'Column' : BLOCKS[node.kind].name;
}

function NodeInspector({ node }: { node: TemplateNode }) {
  const { findings } = useDesk();
  const { inner, outer } = useNodeScope(node.id);
  const KindIcon = KIND_ICON[node.kind];
  const says = isBlock(node) || node.kind === 'section';
  return (
    <>
      <div className={classes.head}>
        <KindIcon size={16} />
        <h2 className={classes.title}>{kindName(node)}</h2>
        <NodeActions node={node} />
      </div>
      <NodeFindings findings={findings.filter((f) => f.node === node.id)} />
      {says && (
        <Part title="What it says">
          <ScopeProvider value={inner}>
            {isBlock(node) ? <BlockForm block={node} /> : <SectionForm node={node} />}
          </ScopeProvider>
        </Part>
      )}
      {(node.kind === 'cards' || node.kind === 'lines') && (
        <Part title="What fills it">
          <LoopForm node={node} at="items" scope={inner} />
        </Part>
      )}
      <ScopeProvider value={outer}>
        <Part title="When it shows">
          <ConditionForm node={node} scope={outer} />
        </Part>
        <Part title="Repeat" closed={!node.loop}>
          <LoopForm node={node} at="loop" scope={outer} />
        </Part>
      </ScopeProvider>
      {isBlock(node) && node.kind !== 'spacer' && (
        <Part title="How it looks" closed>
          <LooksForm block={node as Block} />
        </Part>
      )}
    </>
  );
}

function NodeActions({ node }: { node: TemplateNode }) {
  const { move, duplicate, remove } = useNodeActions();
  const button = (says: string, ButtonIcon: typeof IconCopy, run: () => void) => (
    <Tooltip label={says}>
      <ActionIcon variant="subtle" size="sm" aria-label={says} onClick={run}>
        <ButtonIcon size={15} />
      </ActionIcon>
    </Tooltip>
  );
  return (
    <span className={classes.actions}>
      {button('Move up (Alt+↑)', IconArrowUp, () => move(node.id, -1))}
      {button('Move down (Alt+↓)', IconArrowDown, () => move(node.id, 1))}
      {button('Duplicate (Ctrl+D)', IconCopy, () => duplicate(node.id))}
      {button('Delete (Del)', IconTrash, () => remove(node.id))}
    </span>
  );
}

function NodeFindings({ findings }: { findings: DeskFinding[] }) {
  const { change } = useEdit();
  const template = useAppSelector((s) => s.desk.template);
  const repair = (finding: DeskFinding) => {
    const { repair: mend, node: id, path } = finding;
    if (!mend || !template) return;
    change('Mend a formula', (draft) => {
      const node = id === '' ? null : (findNode(draft, id)?.node ?? null);
      changeSlot(
        draft,
        node,
        path,
        (source) => source.slice(0, mend.start) + mend.text + source.slice(mend.end),
      );
    });
  };
  if (findings.length === 0) return null;
  return (
    <div className={classes.findings}>
      <Findings findings={findings} onRepair={repair} />
    </div>
  );
}
