import { ActionIcon, ScrollArea } from '@mantine/core';
import { IconChevronDown } from '@tabler/icons-react';
import type { Trail, TrailEntry } from '@carafe/core/render';
import { findNode, walkNodes, type Template } from '@carafe/core/template';
import { useAppDispatch, useDeskState } from '../../app/store';
import { TrailLine } from '../../parts/TrailLine';
import { deskActions } from './deskSlice';
import { labelOf } from './labelOf';
import { PicksWhy } from './PicksWhy';
import { useDesk } from './useDesk';
import classes from './Because.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

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
  const { template, selected } = useDeskState('template', 'selected');
  const { trail } = useDesk();
  if (!template) return null;
  const node = selected && selected !== 'envelope' ? findNode(template, selected)?.node : undefined;
  const ids = selected === 'envelope' ? new Set(['']) : node ? within(template, node.id) : null;
  const entries: Trail = ids ? trail.filter((entry) => ids.has(entry.node)) : trail;
  return (
    <section className={classes.drawer} aria-label={t('why')}>
      <header className={classes.head}>
        <strong>{t('why')}</strong>
        <span className="quiet">
          {node ? labelOf(node) : selected === 'envelope' ? t('theEnvelope') : t('theWholeEmail')}
          {t('forThisRecipient')}
        </span>
        <ActionIcon
          variant="subtle"
          size="sm"
          ml="auto"
          aria-label={t('closeWhy')}
          onClick={() => dispatch(deskActions.becauseToggled())}
        >
          <IconChevronDown size={16} />
        </ActionIcon>
      </header>
      <ScrollArea
        className={classes.body}
        type="auto"
        viewportProps={{ tabIndex: 0, 'aria-label': t('trail') }}
      >
        {entries.length === 0 && <p className="quiet">{t('nothingHereDependsOnDataIt')}</p>}
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
    <TrailLine entry={entry}>
      {rule !== undefined && <PicksWhy shop={shop} rule={rule} />}
    </TrailLine>
  );
}
