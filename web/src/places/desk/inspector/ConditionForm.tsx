import { memo, useEffect, useRef } from 'react';
import { Button, Group } from '@mantine/core';
import { nanoid } from 'nanoid';
import { OWN } from '@carafe/core/library';
import { newBlock, withNewIds, type TemplateNode } from '@carafe/core/template';
import { useAppDispatch, useAppSelector } from '../../../app/store';
import { AudienceBar } from '../../../parts/sentence/AudienceBar';
import { ConditionField } from '../../../parts/sentence/ConditionField';
import { holdsIn, type Scope } from '../../../parts/words/scope';
import { deskActions } from '../deskSlice';
import { useMakeOne } from '../everyone/useMakeOne';
import { inPlaceField } from '../inPlaceField';
import { useEdit } from '../useEdit';
import { KeepCondition } from './KeepCondition';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/** The display condition of a node, and what shows in its place when it does not hold. */
export const ConditionForm = memo(function ConditionForm({
  node,
  scope,
}: {
  node: TemplateNode;
  scope: Scope;
}) {
  const { changeById, select } = useEdit();
  const dispatch = useAppDispatch();
  const { make } = useMakeOne();
  const shop = useAppSelector((s) => s.desk.template?.shop);
  const put = (label: string, recipe: (n: TemplateNode) => void) =>
    changeById(node.id, label, recipe);
  const form = useRef<HTMLDivElement>(null);
  const wasKept = useRef(false);
  useEffect(() => {
    if (!wasKept.current) return;
    wasKept.current = false;
    // The button that kept it is gone: the work goes on at the condition.
    form.current?.querySelector<HTMLElement>('[role="group"] button')?.focus();
  }, [node.when]);
  const holds = node.when ? holdsIn(scope, node.when) : null;
  const addElse = () => {
    const other: TemplateNode =
      node.kind === 'section' || node.kind === 'column'
        ? withNewIds({ ...node }, () => nanoid(8))
        : newBlock('text', () => nanoid(8));
    delete other.when;
    delete other.else;
    put('Add an alternative', (n) => void (n.else = other as never));
    select(other.id);
    // What holds words is written at once.
    if (inPlaceField(other)) dispatch(deskActions.editing(other.id));
  };
  return (
    <div data-condition ref={form}>
      <ConditionField
        label={t('showOnlyIf')}
        placeholder={t('alwaysNoCondition')}
        value={node.when ?? ''}
        shape={scope.shape}
        frames={scope.frames}
        now={holds === null ? null : holds ? t('yesItShows') : t('noItIsHidden')}
        onChange={(value) =>
          put('Edit the condition', (n) => {
            if (value.trim() === '') delete n.when;
            else n.when = value;
          })
        }
      >
        {node.when !== undefined && scope.frames.length === 0 && shop !== undefined && (
          <KeepCondition
            shop={shop}
            formula={node.when}
            onKept={(name) => {
              wasKept.current = true;
              put('Use the named condition', (n) => void (n.when = `${OWN}.${name}`));
            }}
          />
        )}
      </ConditionField>
      {node.when !== undefined && (
        <Group gap={8}>
          {node.else ? (
            <>
              <Button variant="default" onClick={() => node.else && select(node.else.id)}>
                {t('goToTheAlternative')}
              </Button>
              <Button
                variant="subtle"
                color="clay"
                onClick={() => put('Remove the alternative', (n) => void delete n.else)}
              >
                {t('removeIt')}
              </Button>
            </>
          ) : (
            <Button variant="default" onClick={addElse} data-else>
              {t('showAnAlternativeIfNot')}
            </Button>
          )}
        </Group>
      )}
      {/* Its count comes later: below everything, it moves nothing that is about to be clicked. */}
      {node.when !== undefined && scope.frames.length === 0 && shop !== undefined && (
        <AudienceBar
          shop={shop}
          formula={node.when}
          onLook={({ email }) =>
            dispatch(deskActions.searched({ search: email, having: 'all', filter: {} }))
          }
          onMake={(wanted) =>
            void make({
              decision: { kind: 'condition', node: node.id, path: 'when' },
              outcome: wanted ? 'held' : 'not',
            })
          }
        />
      )}
    </div>
  );
});
