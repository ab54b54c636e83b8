import { memo, useMemo } from 'react';
import { Button, Group, NumberInput, Select, Switch, TextInput } from '@mantine/core';
import { check, compile, evaluate, parsedFormula, toList } from '@carafe/core/formula';
import { picksOf } from '@carafe/core/sentence';
import { ANY, fieldNamed, memberShape, type Field } from '@carafe/core/shape';
import { anyMember, itemsOf, newBlock, type Loop, type TemplateNode } from '@carafe/core/template';
import { nanoid } from 'nanoid';
import { FieldPicker } from '../../../parts/FieldPicker';
import { FormulaField } from '../../../parts/formula/FormulaField';
import { ConditionField } from '../../../parts/sentence/ConditionField';
import type { Scope } from '../../../parts/words/scope';
import { useEdit } from '../useEdit';
import { BestSelling } from './BestSelling';
import { PickProducts } from './PickProducts';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/** A member of `cart.lines` is a line, one of a catalog a product. */
function memberName(list: string): string {
  if (/^(?:catalog|picks)\b/.test(list)) return 'product';
  const last = list.split(/[."\]]+/).findLast((part) => part !== '') ?? '';
  const name = last.replace(/ies$/, 'y').replace(/s$/, '').replace(/\W+/g, '_');
  return NAME.test(name) && name !== last ? name : 'member';
}

const isList = ({ field }: { field: Field }) => field.shape.kind === 'list';

interface Props {
  node: TemplateNode;
  /** The loop around the node, or the list of a block of cards or lines. */
  at: 'loop' | 'items';
  scope: Scope;
}

const NAME = /^[\p{L}_][\p{L}\p{Nd}_]{0,39}$/u;

function loopOf(node: TemplateNode, at: Props['at']): Loop | undefined {
  if (at === 'loop') return node.loop;
  return itemsOf(node);
}

/** Fields that say when a member came. */
const DATED = ['added_at', 'published_at', 'placed_at'];
/** What is proposed where a list can be long. */
const USUAL_BOUND = 12;
/** Products of the categories that were bought last, without what was bought. */
const LATEST_CATEGORIES = 'category in order.lines.category and sku not in order.lines.sku';
/** Posts that came after the last mail of the occasion to this person; of a month where there was none. */
const NEW_SINCE_LAST_MAIL =
  'published_at > (occasion.last_mail_at otherwise add_days(occasion.entered_at otherwise now, -31))';

/** How many members a list has for the recipient shown. */
function countNow(list: string, scope: Scope): string | null {
  const parsed = parsedFormula(list);
  if (!parsed.ok || !scope.context) return null;
  const found = toList(evaluate(compile(parsed.value), scope.context));
  return found ? t('numberInTheList', { number: found.length }) : null;
}

/** What something is repeated over: list, name, filter, order, at most. */
export const LoopForm = memo(function LoopForm({ node, at, scope }: Props) {
  const { change, changeById, select } = useEdit();
  const loop = loopOf(node, at);
  const inside = useMemo(() => {
    const parsed = parsedFormula(loop?.list ?? '');
    const type = parsed.ok ? check(parsed.value, scope.shape, { frames: scope.frames }).type : ANY;
    return [...scope.frames, { shape: memberShape(type), as: loop?.as ?? null }];
  }, [loop?.list, loop?.as, scope]);
  const put = (label: string, recipe: (l: Loop) => void) =>
    changeById(node.id, label, (n) => {
      const own = loopOf(n, at);
      if (own) recipe(own);
    });
  if (!loop) {
    return (
      <FieldPicker
        shape={scope.shape}
        frames={scope.frames}
        only={isList}
        onPick={({ path, field }) =>
          changeById(node.id, 'Add a loop', (n) => {
            const isLong = (field.length?.most ?? 0) > USUAL_BOUND;
            n.loop = {
              ...{ list: path, as: memberName(path) },
              ...(isLong && { at_most: USUAL_BOUND }),
            };
          })
        }
      >
        <Button variant="default">{t('repeatThisForEach')}</Button>
      </FieldPicker>
    );
  }
  const field = { shape: scope.shape };
  // What is picked by hand has its own order and number.
  const isPicked = at === 'items' && picksOf(loop) !== null;
  const member = inside.at(-1)?.shape;
  const hasSku = at === 'items' && !isPicked && member && fieldNamed(member, 'sku') !== undefined;
  const dated = DATED.find((name) => member && fieldNamed(member, name));
  const newest =
    dated !== undefined && !isPicked && loop.sort === undefined ? `${loop.as}.${dated}` : undefined;
  const by = parsedFormula(loop.sort?.by ?? '');
  const isByDate = by.ok && check(by.value, scope.shape, { frames: inside }).type.kind === 'date';
  return (
    <>
      <FormulaField
        {...field}
        label={t('list')}
        value={loop.list}
        use="list"
        frames={scope.frames}
        now={countNow(loop.list, scope)}
        onChange={(value) => put('Edit the list', (l) => void (l.list = value))}
      />
      {at === 'items' && (
        <PickProducts
          loop={loop}
          onPick={(picked) =>
            put('Pick products', (l) => {
              delete l.where;
              delete l.sort;
              delete l.at_most;
              Object.assign(l, picked);
            })
          }
        />
      )}
      {!isPicked && (
        <>
          <ConditionField
            {...field}
            label={t('filter')}
            placeholder={t('allOfThem')}
            value={loop.where ?? ''}
            frames={inside}
            now={null}
            onChange={(value) =>
              put('Edit the filter', (l) => {
                if (value.trim() === '') delete l.where;
                else l.where = value;
              })
            }
          />
          <FormulaField
            {...field}
            label={t('sortBy')}
            placeholder={t('asTheyCome')}
            value={loop.sort?.by ?? ''}
            use="value"
            frames={inside}
            onChange={(value) =>
              put('Edit the order', (l) => {
                if (value.trim() === '') delete l.sort;
                else l.sort = { by: value, direction: l.sort?.direction ?? 'ascending' };
              })
            }
          />
        </>
      )}
      <Group gap={8} align="flex-start">
        {loop.sort && !isPicked && (
          <Select
            flex="1 1 124px"
            label={t('direction')}
            data={[
              { value: 'ascending', label: isByDate ? t('oldestFirst') : t('lowestFirst') },
              { value: 'descending', label: isByDate ? t('newestFirst') : t('highestFirst') },
            ]}
            value={loop.sort.direction}
            allowDeselect={false}
            onChange={(value) =>
              put('Change the direction', (l) => {
                if (l.sort) l.sort.direction = value === 'descending' ? 'descending' : 'ascending';
              })
            }
          />
        )}
        {!isPicked && (
          <NumberInput
            flex="0 1 84px"
            label={t('atMost')}
            placeholder={t('all')}
            min={1}
            max={1000}
            value={loop.at_most ?? ''}
            onChange={(value) =>
              put('Change how many', (l) => {
                if (typeof value === 'number' && value >= 1)
                  l.at_most = Math.min(1000, Math.floor(value));
                else delete l.at_most;
              })
            }
          />
        )}
        <TextInput
          flex="1 1 140px"
          label={t('usedInFormulasAs')}
          value={loop.as}
          onChange={({ currentTarget: { value } }) =>
            NAME.test(value) && put('Rename the member', (l) => void (l.as = value))
          }
        />
      </Group>
      {at === 'items' && loop.at_most !== undefined && (
        <FormulaField
          {...field}
          label={t('fillUpFrom')}
          description={t('ifThereAreTooFewThe')}
          placeholder={t('showFewer')}
          value={loop.fill ?? ''}
          use="list"
          frames={scope.frames}
          onChange={(value) =>
            put('Edit what fills up', (l) => {
              if (value.trim() === '') delete l.fill;
              else l.fill = value;
            })
          }
        />
      )}
      {hasSku && (
        <Switch
          size="xs"
          label={t('leaveOutProductsAlreadyShownAbove')}
          checked={loop.once === true}
          onChange={({ currentTarget: { checked } }) =>
            put('Change what is left out', (l) => {
              if (checked) l.once = true;
              else delete l.once;
            })
          }
        />
      )}
      {newest !== undefined && (
        <Button
          variant="subtle"
          justify="flex-start"
          size="compact-xs"
          onClick={() =>
            put('Newest first', (l) => void (l.sort = { by: newest, direction: 'descending' }))
          }
        >
          {t('newestFirst')}
        </Button>
      )}
      {at === 'items' &&
        member &&
        fieldNamed(member, 'published_at') &&
        loop.where === undefined && (
          <Button
            variant="subtle"
            justify="flex-start"
            size="compact-xs"
            onClick={() => put('Edit the filter', (l) => void (l.where = NEW_SINCE_LAST_MAIL))}
          >
            {t('onlyWhatIsNewSinceThe')}
          </Button>
        )}
      {at === 'items' && !isPicked && loop.list.startsWith('catalog') && (
        <>
          <BestSelling
            onList={(list) =>
              put('Best selling', (l) => {
                l.list = list;
                delete l.sort;
              })
            }
          />
          <Button
            variant="subtle"
            justify="flex-start"
            size="compact-xs"
            onClick={() => put('Edit the filter', (l) => void (l.where = LATEST_CATEGORIES))}
          >
            {t('onlyFromTheLatestOrdersCategories')}
          </Button>
        </>
      )}
      {node.when === undefined && (
        <Button
          variant="subtle"
          justify="flex-start"
          size="compact-xs"
          onClick={() => {
            const other = newBlock('text', () => nanoid(8));
            const isBlock = node.kind !== 'section' && node.kind !== 'column';
            changeById(node.id, 'Show something else if the list is empty', (n) => {
              n.when = anyMember(loop);
              if (isBlock) n.else = other as never;
            });
            if (isBlock) select(other.id);
          }}
        >
          {node.kind === 'section' || node.kind === 'column'
            ? t('leaveThisOutIfTheList')
            : t('showSomethingElseIfTheList')}
        </Button>
      )}
      {at === 'items' && (
        <Button
          variant="subtle"
          justify="flex-start"
          size="compact-xs"
          onClick={() =>
            change('Send no email if the list is empty', (draft) => {
              const before = draft.envelope.only_if;
              const any = anyMember(loop);
              draft.envelope.only_if = before === undefined ? any : `(${before}) and (${any})`;
            })
          }
        >
          {t('sendNoEmailIfTheList')}
        </Button>
      )}
      {at === 'loop' && (
        <Group>
          <Button
            variant="subtle"
            color="clay"
            onClick={() => changeById(node.id, 'Remove the loop', (n) => void delete n.loop)}
          >
            {t('doNotRepeat')}
          </Button>
        </Group>
      )}
    </>
  );
});
