import { memo, useDeferredValue, useEffect, useRef, useState, type MouseEvent } from 'react';
import { ActionIcon, ScrollArea, Tooltip } from '@mantine/core';
import { IconGitBranch, IconMail, IconPlus, IconRepeat } from '@tabler/icons-react';
import { itemsOf, type Template, type TemplateNode } from '@carafe/core/template';
import type { Trail } from '@carafe/core/render';
import { store, useAppDispatch, useAppSelector } from '../../app/store';
import { deskActions } from './deskSlice';
import { SeverityIcon } from '../../parts/Findings';
import { figure } from '@carafe/core/words';
import { useEveryone } from './everyone/useSurvey';
import { AddBlock } from './AddBlock';
import { KindIcon } from './KindIcon';
import { labelOf } from './labelOf';
import { outcomeOf, type Outcome } from './outcome';
import { listedNodes } from './outlineNodes';
import { useDesk } from './useDesk';
import type { DeskFinding } from './useFindings';
import { useEdit } from './useEdit';
import { useOutlineDrag } from './useOutlineDrag';
import classes from './Outline.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

interface Line {
  node: TemplateNode;
  depth: number;
  isElse: boolean;
  /** A node around it does not show. */
  within: boolean;
  outcome: Outcome;
}

/** The lines of the outline, with what each did for the recipient shown. */
function linesOf(template: Template, trail: Trail): Line[] {
  const told = new Map<string, Trail>();
  for (const entry of trail) {
    const before = told.get(entry.node);
    if (before) before.push(entry);
    else told.set(entry.node, [entry]);
  }
  const known = new Map<string, Outcome>();
  const outcome = (node: TemplateNode): Outcome => {
    const found = known.get(node.id) ?? outcomeOf(node, told.get(node.id) ?? []);
    known.set(node.id, found);
    return found;
  };
  return listedNodes(template).map(({ node, parents, isElse }) => ({
    node,
    isElse,
    depth: parents.length,
    within: parents.some((parent) => outcome(parent).hidden),
    outcome: outcome(node),
  }));
}

function worst(findings: readonly DeskFinding[]): DeskFinding['severity'] | null {
  if (findings.some((f) => f.severity === 'error')) return 'error';
  return findings[0]?.severity ?? null;
}

/** The structure of the mail in reading order, and what each part did for this recipient. */
export function Outline() {
  // What is written is seen in the mail first.
  const template = useDeferredValue(useAppSelector((s) => s.desk.template));
  const { trail, findings } = useDesk();
  const { coverage } = useEveryone();
  if (!template) return null;
  return <Lines {...{ template, trail, findings, coverage }} />;
}

interface LinesProps {
  template: Template;
  trail: Trail;
  findings: readonly DeskFinding[];
  coverage: ReturnType<typeof useEveryone>['coverage'];
}

const Lines = memo(function Lines({ template, trail, findings, coverage }: LinesProps) {
  const selected = useAppSelector((s) => s.desk.selected);
  const also = useAppSelector((s) => s.desk.also);
  const { select } = useEdit();
  const reached = new Map(coverage?.nodes.map(({ node, people }) => [node, people]));
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    list.current?.querySelector('[aria-current="true"]')?.scrollIntoView({ block: 'nearest' });
  }, [selected]);
  const envelope = findings.filter((f) => f.node === '');
  return (
    <nav className={classes.pane} aria-label={t('outline')}>
      <ScrollArea h="100%" type="auto" viewportProps={{ tabIndex: -1 }}>
        <div ref={list} className={classes.list}>
          <div className={classes.row} data-selected={selected === 'envelope' || undefined}>
            <button
              type="button"
              className={classes.line}
              aria-current={selected === 'envelope'}
              onClick={() => select('envelope')}
            >
              <IconMail size={15} className={classes.icon} />
              <span className={classes.words}>
                <span className={classes.label}>{t('envelopeAndStyle')}</span>
              </span>
              <SeverityMark severity={worst(envelope)} message={envelope[0]?.message ?? ''} />
            </button>
          </div>
          {linesOf(template, trail).map((line) => {
            const found = findings.filter((f) => f.node === line.node.id);
            return (
              <OutlineLine
                key={line.node.id}
                node={line.node}
                depth={line.depth}
                isElse={line.isElse}
                selected={line.node.id === selected}
                also={also.includes(line.node.id)}
                hidden={line.within || line.outcome.hidden}
                outcome={line.outcome.summary}
                reach={sayReach(reached.get(line.node.id), coverage?.people ?? 0)}
                severity={worst(found)}
                finding={found[0]?.message ?? ''}
              />
            );
          })}
        </div>
      </ScrollArea>
    </nav>
  );
});

function SeverityMark({
  severity,
  message,
}: {
  severity: DeskFinding['severity'] | null;
  message: string;
}) {
  if (!severity) return null;
  return (
    <Tooltip label={message} multiline maw={280}>
      <span className={classes.mark}>
        <SeverityIcon severity={severity} />
      </span>
    </Tooltip>
  );
}

/** How many people see a part, where not all do. */
function sayReach(people: number | undefined, all: number): string {
  if (people === undefined || all === 0 || people === all) return '';
  return people === 0 ? 'nobody' : figure(people);
}

/** Selects what is clicked: alone, with Ctrl beside what is selected, with Shift all in between. */
function useSelectBy() {
  const { select } = useEdit();
  const dispatch = useAppDispatch();
  return ({ ctrlKey, metaKey, shiftKey }: MouseEvent, id: string) => {
    const { template, selected } = store.getState().desk;
    if (ctrlKey || metaKey) return void dispatch(deskActions.alsoSelected(id));
    const ids = template ? listedNodes(template).map(({ node }) => node.id) : [];
    const from = selected === null ? -1 : ids.indexOf(selected);
    const to = ids.indexOf(id);
    if (!shiftKey || from < 0 || to < 0) return select(id);
    const stretch = ids.slice(Math.min(from, to), Math.max(from, to) + 1);
    return void dispatch(deskActions.stretched(from <= to ? stretch : stretch.reverse()));
  };
}

interface LineProps {
  node: TemplateNode;
  depth: number;
  isElse: boolean;
  selected: boolean;
  /** Selected beside the one that the inspector shows. */
  also: boolean;
  hidden: boolean;
  outcome: string;
  /** How many people see it, once that is known. */
  reach: string;
  severity: DeskFinding['severity'] | null;
  finding: string;
}

/** One line; it is drawn anew only when something of it changed. */
const OutlineLine = memo(function OutlineLine({
  node,
  depth,
  isElse,
  selected,
  also,
  hidden,
  outcome,
  reach,
  severity,
  finding,
}: LineProps) {
  const selectBy = useSelectBy();
  // The menu behind the plus is made when the pointer first comes by.
  const [near, setNear] = useState(false);
  const repeats = node.loop ?? itemsOf(node);
  const { drop, props } = useOutlineDrag(node.id);
  return (
    <div
      {...props}
      draggable={!isElse}
      data-drop={drop ?? undefined}
      className={classes.row}
      data-selected={selected || also || undefined}
      data-hidden={hidden || undefined}
      style={{ paddingLeft: depth * 14 }}
      onMouseEnter={() => setNear(true)}
    >
      {repeats && <span className={classes.bracket} style={{ left: depth * 14 }} aria-hidden />}
      <button
        type="button"
        className={classes.line}
        aria-current={selected}
        {...(also && { 'aria-pressed': true })}
        onClick={(event) => selectBy(event, node.id)}
      >
        <KindIcon kind={node.kind} size={15} className={classes.icon} />
        <span className={classes.words}>
          <span className={classes.label}>
            {isElse && <span className={classes.else}>{t('else')} </span>}
            {labelOf(node)}
          </span>
          {(outcome || node.when !== undefined) && (
            <span className={classes.outcome}>
              {node.when !== undefined && <IconGitBranch size={12} aria-label={t('condition')} />}
              {node.loop && <IconRepeat size={12} aria-label={t('loop')} />}
              {outcome}
            </span>
          )}
        </span>
        {reach && (
          <span className={classes.reach} data-nobody={reach === 'nobody' || undefined}>
            {reach}
          </span>
        )}
        <SeverityMark severity={severity} message={finding} />
      </button>
      {!isElse && near && (
        <span className={classes.plus}>
          <AddBlock after={node.id}>
            <ActionIcon
              size={18}
              radius="xl"
              variant="filled"
              aria-label={t('addAfterNode', { node: labelOf(node) })}
              tabIndex={-1}
            >
              <IconPlus size={12} />
            </ActionIcon>
          </AddBlock>
        </span>
      )}
    </div>
  );
});
