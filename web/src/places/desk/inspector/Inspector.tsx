import { useDeferredValue } from 'react';
import { ScrollArea } from '@mantine/core';
import { changeSite } from '@carafe/core/site';
import { chosenNodes, itemsOf, kindOf, type TemplateNode } from '@carafe/core/template';
import { useAppSelector, useDeskState } from '../../../app/store';
import { Findings } from '../../../parts/Findings';
import { ScopeProvider } from '../../../parts/words/scope';
import { focusMailIfLost } from '../focusMail';
import { KindIcon } from '../KindIcon';
import { useDesk } from '../useDesk';
import type { DeskFinding } from '../useFindings';
import { useEdit } from '../useEdit';
import { useNodeScope } from '../useNodeScope';
import { Alternatives } from './Alternatives';
import { AtAGlance } from './AtAGlance';
import { ConditionForm } from './ConditionForm';
import { EnvelopeForm } from './EnvelopeForm';
import { LoopForm } from './LoopForm';
import { NodeActions } from './NodeActions';
import { hasPart, NodeForm } from './NodeForm';
import { Part } from './Part';
import { Several } from './Several';
import classes from './Inspector.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/** What is selected, in one column: what it says, what fills it, when it shows, how it looks. */
export function Inspector() {
  const { template, selected, also } = useDeskState('template', 'selected', 'also');
  if (!template) return null;
  const chosen = selected ? chosenNodes(template, [...also, selected]) : [];
  const [one] = chosen;
  return (
    <aside className={classes.pane} aria-label={t('inspector')} data-template-form>
      <ScrollArea h="100%" type="auto" viewportProps={{ tabIndex: -1 }}>
        <div className={classes.column}>
          {chosen.length > 1 ? (
            <Several nodes={chosen} />
          ) : one ? (
            <NodeInspector key={one.id} node={one} />
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
      <h2 className={classes.title}>{t('envelopeAndStyle')}</h2>
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
        <NodeActions />
      </div>
      <Alternatives node={later} />
      <NodeFindings findings={findings.filter((f) => f.node === node.id)} />
      {hasPart(node, 'content') && (
        <Part title={t('content')}>
          <NodeForm node={node} part="content" />
        </Part>
      )}
      {itemsOf(node) && (
        <Part title={t('data')}>
          <LoopForm node={later} at="items" scope={inner} />
        </Part>
      )}
      <ScopeProvider value={outer}>
        <Part title={t('condition2')}>
          <ConditionForm node={later} scope={outer} />
        </Part>
        <Part title={t('repeat')} closed={!node.loop}>
          <LoopForm node={later} at="loop" scope={outer} />
        </Part>
      </ScopeProvider>
      {hasPart(node, 'looks') && (
        <Part title={t('style')} closed>
          <NodeForm node={node} part="looks" />
        </Part>
      )}
    </>
  );
}

function NodeFindings({ findings }: { findings: DeskFinding[] }) {
  const { change } = useEdit();
  const template = useAppSelector((s) => s.desk.template);
  const repair = (finding: DeskFinding) => {
    const { repair: mend, node: id, path } = finding;
    if (!mend || !template) return;
    change('Fix a formula', (draft) => {
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
