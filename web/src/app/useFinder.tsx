import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { SpotlightActionData } from '@mantine/spotlight';
import { useNavigate } from 'react-router';
import { walkNodes } from '@carafe/core/template';
import { labelOf } from '../places/desk/labelOf';
import { useNodeActions } from '../places/desk/useNodeActions';
import { deskActions, type DeskAsk } from '../places/desk/deskSlice';
import { counted } from '@carafe/core/words';
import { ENDPOINTS } from '@carafe/contract';
import { api } from './api';
import { ask } from './ask';
import { ALSO_CALLED } from './finderWords';
import { store, useAppDispatch } from './store';
import { wordsOf } from '../words';

const t = wordsOf('app');

const MAX_RECIPIENTS = 200;

/** What else a shop has that is found by its name. */
interface Other {
  kind: 'occasion' | 'rule' | 'segment';
  id: string;
  name: string;
  shop: string;
}
const OTHERS = { occasion: 'Occasion', rule: 'Recommendation rule', segment: 'Segment' };

async function othersOf(): Promise<Other[]> {
  const { shops } = await ask(ENDPOINTS.listShops, {});
  const all = await Promise.all(
    shops.map(async ({ id: shop }): Promise<Other[]> => {
      const params = { shop };
      const [{ occasions }, { rules }, { segments }] = await Promise.all([
        ask(ENDPOINTS.listOccasions, { params }),
        ask(ENDPOINTS.listRules, { params }),
        ask(ENDPOINTS.listSegments, { params }),
      ]);
      const at = (kind: Other['kind'], id: string, name: string): Other => ({
        kind,
        id,
        name,
        shop,
      });
      return [
        ...occasions.map(({ id, occasion }) => at('occasion', id, occasion.name)),
        ...rules.map(({ id, rule }) => at('rule', id, rule.label)),
        ...segments.map(({ name }) => at('segment', name, name)),
      ];
    }),
  );
  return all.flat();
}

const withWords = (action: SpotlightActionData): SpotlightActionData => ({
  ...action,
  keywords: ALSO_CALLED[action.id ?? ''] ?? '',
});

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
  const [others, setOthers] = useState<readonly Other[]>([]);
  const refresh = useCallback(() => {
    setDesk(store.getState().desk);
    void refetch();
    // Without them the rest is found all the same.
    void othersOf().then(setOthers, () => setOthers([]));
  }, [refetch]);
  const actions = useMemo(() => {
    const found: SpotlightActionData[] = [
      { id: 'templates', label: t('allTemplates'), onClick: () => void navigate('/') },
      ...templates.map(({ id, name, reads }) => ({
        id: `template ${id}`,
        label: name,
        description: t('templateFillsFromValue', { value: reads.join(', ') || 'nothing' }),
        onClick: () => void navigate(`/templates/${id}`),
      })),
    ];
    for (const [label, to] of [
      [t('recommendations'), '/recommendations'],
      [t('pictures'), '/library'],
      [t('productNotes'), '/library/notes'],
      [t('namedFormulas'), '/library/formulas'],
      [t('recentlyDeleted'), '/library/deleted'],
      [t('occasions'), '/occasions'],
      [t('outbox'), '/outbox'],
      [t('people'), '/people'],
      [t('mailbox'), '/mailbox'],
    ] as const)
      found.push({ id: to, label, onClick: () => void navigate(to) });
    found.push({
      id: 'clock',
      label: t('moveTheClock'),
      description: t('settingLetTimePassInTest'),
      onClick: () => onMoveClock.current(),
    });
    found.push({ id: 'sources', label: t('allSources'), onClick: () => void navigate('/sources') });
    const opens = (id: string, label: string, description: string, to: string) =>
      found.push({ id, label, description, onClick: () => void navigate(to) });
    opens('segments', 'Segments', 'Groups of people', '/occasions?sheet=segments');
    opens(
      'rules',
      'For all occasions',
      'Setting: how many emails a person gets, when a cart counts as left',
      '/occasions?sheet=rules',
    );
    opens(
      'hand',
      'Send by hand',
      'Action: to people with a cart or an unpaid order',
      '/occasions?sheet=hand',
    );
    opens('settings', 'Email settings', 'Setting: sender, server, links', '/mailbox?settings=open');
    found.push({
      ...{
        id: 'api',
        label: t('aPIReference'),
        description: t('documentationEveryAddressAsOpenAPI'),
      },
      onClick: () => void window.open('/api/openapi.json', '_blank'),
    });
    for (const { kind, id, name, shop } of others)
      opens(
        `${kind} ${id}`,
        name,
        `${OTHERS[kind]} of ${shop}`,
        kind === 'segment'
          ? `/occasions?sheet=segments&shop=${shop}`
          : `/${kind}s?shop=${shop}&open=${id}`.replace('/rules', '/recommendations'),
      );
    for (const { id, name, shop, rows } of sources)
      found.push({
        id: `source ${id}`,
        label: name,
        description: t('sourceOfShopRows', {
          shop: shop ?? t('everyShop'),
          rows: counted(rows, 'row'),
        }),
        onClick: () => void navigate(`/sources/${id}`),
      });
    if (!template) return found.map(withWords);
    const ask = (id: DeskAsk, label: string, description: string) =>
      found.push({
        ...{ id, label, description: t('actionDescription', { description }) },
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
        label: t('undo'),
        description: t('action'),
        onClick: () => void dispatch(deskActions.undone()),
      },
      {
        id: 'redo',
        label: t('redo'),
        description: t('action'),
        onClick: () => void dispatch(deskActions.redone()),
      },
      {
        id: 'because',
        label: t('why'),
        description: t('actionWhyEachPartIsAs'),
        onClick: () => void dispatch(deskActions.becauseToggled()),
      },
      {
        id: 'envelope',
        label: t('envelopeAndStyle'),
        description: template.envelope.subject,
        onClick: () => void dispatch(deskActions.selected('envelope')),
      },
    );
    const does = (id: string, label: string, run: () => void) =>
      found.push({ id, label, description: t('actionOnWhatIsSelected'), onClick: run });
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
        description: t('partOfThisTemplateKind', { kind: node.kind }),
        onClick: () => void dispatch(deskActions.selected(node.id)),
      }),
    );
    recipients.slice(0, MAX_RECIPIENTS).forEach(({ id, name, email }, i) =>
      found.push({
        id: `recipient ${id}`,
        label: name || email,
        description: t('recipientEmail', { email }),
        onClick: () => void dispatch(deskActions.flipped(i)),
      }),
    );
    return found.map(withWords);
  }, [templates, sources, others, template, selected, recipients, navigate, dispatch]);
  return { actions, refresh };
}
