import { useMemo } from 'react';
import { Button, Group, NumberInput, Select, TextInput } from '@mantine/core';
import { check, compile, evaluate, parse, toList } from '@carafe/core/formula';
import { ANY, memberShape } from '@carafe/core/shape';
import type { Loop, TemplateNode } from '@carafe/core/template';
import { FormulaField } from '../../../parts/FormulaField';
import type { Scope } from '../../../parts/words/scope';
import { useEdit } from '../useEdit';

interface Props {
  node: TemplateNode;
  /** The loop around the node, or the list of a block of cards or lines. */
  at: 'loop' | 'items';
  scope: Scope;
}

const NAME = /^[\p{L}_][\p{L}\p{Nd}_]{0,39}$/u;

function loopOf(node: TemplateNode, at: Props['at']): Loop | undefined {
  if (at === 'loop') return node.loop;
  return node.kind === 'cards' || node.kind === 'lines' ? node.items : undefined;
}

/** How many members a list has for the recipient shown. */
function countNow(list: string, scope: Scope): string | null {
  const parsed = parse(list);
  if (!parsed.ok || !scope.context) return null;
  const found = toList(evaluate(compile(parsed.value), scope.context));
  return found ? `${found.length} in the list` : null;
}

/** What something is repeated over: list, name, filter, order, at most. */
export function LoopForm({ node, at, scope }: Props) {
  const { changeById } = useEdit();
  const loop = loopOf(node, at);
  const inside = useMemo(() => {
    const parsed = parse(loop?.list ?? '');
    const type = parsed.ok ? check(parsed.value, scope.shape, { frames: scope.frames }).type : ANY;
    return [...scope.frames, { shape: memberShape(type), as: loop?.as ?? null }];
  }, [loop?.list, loop?.as, scope]);
  const put = (says: string, recipe: (l: Loop) => void) =>
    changeById(node.id, says, (n) => {
      const own = loopOf(n, at);
      if (own) recipe(own);
    });
  if (!loop) {
    return (
      <Button
        variant="default"
        onClick={() =>
          changeById(
            node.id,
            'Add a loop',
            (n) => void (n.loop = { list: 'cart.lines', as: 'line' }),
          )
        }
      >
        Repeat this for each member of a list
      </Button>
    );
  }
  const field = { shape: scope.shape };
  return (
    <>
      <FormulaField
        {...field}
        label="For each of"
        value={loop.list}
        use="list"
        frames={scope.frames}
        now={countNow(loop.list, scope)}
        onChange={(value) => put('Edit the list', (l) => void (l.list = value))}
      />
      <FormulaField
        {...field}
        label="Only those where"
        placeholder="All of them"
        value={loop.where ?? ''}
        use="condition"
        frames={inside}
        onChange={(value) =>
          put('Edit the filter', (l) => {
            if (value.trim() === '') delete l.where;
            else l.where = value;
          })
        }
      />
      <FormulaField
        {...field}
        label="In the order of"
        placeholder="As they come"
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
      <Group gap={8} grow align="flex-start">
        {loop.sort && (
          <Select
            label="Direction"
            data={[
              { value: 'ascending', label: 'Lowest first' },
              { value: 'descending', label: 'Highest first' },
            ]}
            value={loop.sort.direction}
            allowDeselect={false}
            onChange={(value) =>
              put('Turn the order round', (l) => {
                if (l.sort) l.sort.direction = value === 'descending' ? 'descending' : 'ascending';
              })
            }
          />
        )}
        <NumberInput
          label="At most"
          placeholder="All"
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
        <TextInput
          label="Each is called"
          value={loop.as}
          onChange={({ currentTarget: { value } }) =>
            NAME.test(value) && put('Rename the member', (l) => void (l.as = value))
          }
        />
      </Group>
      {at === 'loop' && (
        <Group>
          <Button
            variant="subtle"
            color="clay"
            onClick={() => changeById(node.id, 'Take the loop off', (n) => void delete n.loop)}
          >
            Do not repeat
          </Button>
        </Group>
      )}
    </>
  );
}
