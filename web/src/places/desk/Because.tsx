import { ActionIcon, ScrollArea } from '@mantine/core';
import { IconCheck, IconChevronDown, IconX } from '@tabler/icons-react';
import type { Trail, TrailEntry } from '@carafe/core/render';
import { findNode, walkNodes, type Template } from '@carafe/core/template';
import { useAppDispatch, useAppSelector } from '../../app/store';
import { deskActions } from './deskSlice';
import { labelOf } from './labelOf';
import { PicksWhy } from './PicksWhy';
import { useDesk } from './useDesk';
import classes from './Because.module.css';

/** A list of what a rule picks. */
const RULE = /^\s*picks\.([\p{L}_][\p{L}\p{Nd}_]*)\s*$/u;

/** The ids of a node and everything in it. */
function within(template: Template, id: string): Set<string> {
  const ids = new Set([id]);
  walkNodes(template, ({ node, parents }) => {
    if (parents.some((parent) => parent.id === id)) ids.add(node.id);
  });
  return ids;
}

/** The trail of the selection for the recipient shown: why it is as it is. */
export function Because() {
  const dispatch = useAppDispatch();
  const { template, selected } = useAppSelector((s) => s.desk);
  const { trail } = useDesk();
  if (!template) return null;
  const node = selected && selected !== 'envelope' ? findNode(template, selected)?.node : undefined;
  const ids = selected === 'envelope' ? new Set(['']) : node ? within(template, node.id) : null;
  const entries: Trail = ids ? trail.filter((entry) => ids.has(entry.node)) : trail;
  return (
    <section className={classes.drawer} aria-label="Why">
      <header className={classes.head}>
        <strong>Why</strong>
        <span className="quiet">
          {node ? labelOf(node) : selected === 'envelope' ? 'the envelope' : 'the whole mail'}, for
          this recipient
        </span>
        <ActionIcon
          variant="subtle"
          size="sm"
          ml="auto"
          aria-label="Close Why"
          onClick={() => dispatch(deskActions.becauseToggled())}
        >
          <IconChevronDown size={16} />
        </ActionIcon>
      </header>
      <ScrollArea
        className={classes.body}
        type="auto"
        viewportProps={{ tabIndex: 0, 'aria-label': 'Trail' }}
      >
        {entries.length === 0 && (
          <p className="quiet">Nothing here fills itself: it is the same for everyone.</p>
        )}
        {entries.map((entry, i) => (
          <Entry key={`${entry.node} ${entry.path} ${i}`} entry={entry} shop={template.shop} />
        ))}
      </ScrollArea>
    </section>
  );
}

function Entry({ entry, shop }: { entry: TrailEntry; shop: string }) {
  const rule = entry.is === 'loop' ? RULE.exec(entry.formula)?.[1] : undefined;
  return (
    <div className={classes.entry}>
      <code className={classes.formula}>{entry.formula}</code>
      <div>
        <Said entry={entry} />
        {rule !== undefined && <PicksWhy shop={shop} rule={rule} />}
      </div>
    </div>
  );
}

function Said({ entry }: { entry: TrailEntry }) {
  switch (entry.is) {
    case 'condition':
      return (
        <>
          <span className={classes.verdict}>
            {entry.held ? <IconCheck size={14} /> : <IconX size={14} />}
            {entry.said}: {entry.held ? 'it shows' : 'it is hidden'}
          </span>
          <Parts parts={entry.why.parts} />
        </>
      );
    case 'loop':
      return (
        <>
          <span>
            {entry.before} in the list
            {entry.kept !== entry.before && `, ${entry.kept} after the filter`}
            {`, ${entry.shown} shown`}
          </span>
          <span className={classes.members}>
            {entry.members.map((member, i) => (
              <span key={`${member.name} ${i}`} data-shown={member.shown || undefined}>
                {member.name}
              </span>
            ))}
            {entry.before > entry.members.length && (
              <span>and {entry.before - entry.members.length} more</span>
            )}
          </span>
        </>
      );
    case 'value':
      return (
        <>
          <span>
            {entry.text.trim() === '' ? (
              <em className={classes.blank}>blank</em>
            ) : (
              `“${entry.text}”`
            )}
            {entry.fallback && <span className={classes.fell}> by its fallback</span>}
          </span>
          <Parts parts={entry.why.parts} />
          {entry.text.trim() === '' && entry.why.reasons[0] && (
            <span className="quiet">{entry.why.reasons[0].message}</span>
          )}
        </>
      );
  }
}

function Parts({ parts }: { parts: { source: string; value: string }[] }) {
  if (parts.length === 0) return null;
  return (
    <span className={classes.parts}>
      {parts.map((part, i) => (
        <span key={`${part.source} ${i}`}>
          <code>{part.source}</code> {part.value}
        </span>
      ))}
    </span>
  );
}
