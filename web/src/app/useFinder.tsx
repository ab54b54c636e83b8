import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { SpotlightActionData } from '@mantine/spotlight';
import { useNavigate } from 'react-router';
import { walkNodes } from '@carafe/core/template';
import { labelOf } from '../places/desk/labelOf';
import { useNodeActions } from '../places/desk/useNodeActions';
import { deskActions, type DeskAsk } from '../places/desk/deskSlice';
import { counted } from '@carafe/core/words';
import { api } from './api';
import { store, useAppDispatch } from './store';

const MAX_RECIPIENTS = 200;

/** What can be found from anywhere: templates, and at the desk its parts, recipients and actions. */
export function useFinder(moveClock: () => void): {
  actions: SpotlightActionData[];
  refresh: () => void;
} {
  const navigate = useNavigate();
  const onMoveClock = useRef(moveClock);
  useEffect(() => {
    onMoveClock.current = moveClock;
  });
  const nodes = useRef(useNodeActions());
  const dispatch = useAppDispatch();
  // As the desk is when somebody begins to look: it changes with each letter typed there.
  const [desk, setDesk] = useState(store.getState().desk);
  const { template, recipients, selected } = desk;
  const { data: listed, refetch } = api.useTemplatesQuery();
  const { data: known } = api.useSourcesQuery();
  const templates = useMemo(() => listed?.templates ?? [], [listed]);
  const sources = useMemo(() => known?.sources ?? [], [known]);
  const refresh = useCallback(() => {
    setDesk(store.getState().desk);
    void refetch();
  }, [refetch]);
  const actions = useMemo(() => {
    const found: SpotlightActionData[] = [
      { id: 'templates', label: 'All templates', onClick: () => void navigate('/') },
      ...templates.map(({ id, name, reads }) => ({
        id: `template ${id}`,
        label: name,
        description: `Template, fills from ${reads.join(', ') || 'nothing'}`,
        onClick: () => void navigate(`/templates/${id}`),
      })),
    ];
    for (const [label, to] of [
      ['Recommendations', '/recommendations'],
      ['Pictures', '/library'],
      ['Product notes', '/library/notes'],
      ['Named formulas', '/library/formulas'],
      ['Recently deleted', '/library/deleted'],
      ['Occasions', '/occasions'],
      ['Outbox', '/outbox'],
      ['Mailbox', '/mailbox'],
    ] as const)
      found.push({ id: to, label, onClick: () => void navigate(to) });
    found.push({
      id: 'clock',
      label: 'Move the clock',
      description: 'Setting: let time pass, in test-only mode',
      onClick: () => onMoveClock.current(),
    });
    found.push({ id: 'sources', label: 'All sources', onClick: () => void navigate('/sources') });
    for (const { id, name, shop, rows } of sources)
      found.push({
        id: `source ${id}`,
        label: name,
        description: `Source of ${shop ?? 'every shop'}, ${counted(rows, 'row')}`,
        onClick: () => void navigate(`/sources/${id}`),
      });
    if (!template) return found;
    const ask = (id: DeskAsk, label: string, description: string) =>
      found.push({
        ...{ id, label, description: `Action: ${description}` },
        onClick: () => void dispatch(deskActions.asked(id)),
      });
    ask('add', 'Add a block', 'after what is selected');
    ask(
      'everybody',
      'What everybody gets',
      'variants, checks, expectations, the impact of an edit',
    );
    ask('test', 'Send yourself a test', 'as the recipient shown gets it');
    ask('publish', 'Publish', 'what occasions send from now on');
    ask('keys', 'Keyboard shortcuts', 'the list of keys');
    found.push(
      {
        id: 'undo',
        label: 'Undo',
        description: 'Action',
        onClick: () => void dispatch(deskActions.undone()),
      },
      {
        id: 'redo',
        label: 'Redo',
        description: 'Action',
        onClick: () => void dispatch(deskActions.redone()),
      },
      {
        id: 'because',
        label: 'Why',
        description: 'Action: why each part is as it is for this recipient',
        onClick: () => void dispatch(deskActions.becauseToggled()),
      },
      {
        id: 'envelope',
        label: 'Envelope and style',
        description: template.envelope.subject,
        onClick: () => void dispatch(deskActions.selected('envelope')),
      },
    );
    const does = (id: string, label: string, run: () => void) =>
      found.push({ id, label, description: 'Action on what is selected', onClick: run });
    if (selected && selected !== 'envelope') {
      does('duplicate', 'Duplicate', () => nodes.current.duplicate());
      does('delete', 'Delete', () => nodes.current.remove());
      does('group', 'Group', () => nodes.current.group());
      does('section', 'Move to its own section', () => nodes.current.section());
    }
    walkNodes(template, ({ node }) =>
      found.push({
        id: `node ${node.id}`,
        label: labelOf(node),
        description: `Part of this template: ${node.kind}`,
        onClick: () => void dispatch(deskActions.selected(node.id)),
      }),
    );
    recipients.slice(0, MAX_RECIPIENTS).forEach(({ id, name, email }, i) =>
      found.push({
        id: `recipient ${id}`,
        label: name || email,
        description: `Recipient, ${email}`,
        onClick: () => void dispatch(deskActions.flipped(i)),
      }),
    );
    return found;
  }, [templates, sources, template, selected, recipients, navigate, dispatch]);
  return { actions, refresh };
}
