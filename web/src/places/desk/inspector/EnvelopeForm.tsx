import { NumberInput, SimpleGrid, TextInput } from '@mantine/core';
import type { HouseStyle, Template } from '@carafe/core/template';
import { useAppDispatch, useAppSelector } from '../../../app/store';
import { AudienceBar } from '../../../parts/sentence/AudienceBar';
import { ConditionField } from '../../../parts/sentence/ConditionField';
import { deskActions } from '../deskSlice';
import { ColourField } from '../../../parts/ColourField';
import { holdsIn, ScopeProvider } from '../../../parts/words/scope';
import { useEdit } from '../useEdit';
import { useLoopScope } from '../useNodeScope';
import { LabelledLine } from '../../../parts/LabelledLine';
import { LinkTags } from './LinkTags';
import { Part } from './Part';
import { ShopChoice } from './ShopChoice';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

const LINES: {
  key: 'subject' | 'preview_text' | 'from_name' | 'to_name';
  label: string;
  description?: string;
}[] = [
  { key: 'subject', label: t('subject') },
  {
    key: 'preview_text',
    label: t('previewText'),
    description: t('shownAfterTheSubjectInThe'),
  },
  { key: 'from_name', label: t('senderName') },
  {
    key: 'to_name',
    label: t('recipientName'),
    description: t('shownBeforeTheAddressIfIt'),
  },
];
const COLOURS: [keyof HouseStyle, string][] = [
  ['primary', t('buttonsAndLinks')],
  ['on_primary', t('buttonText')],
  ['ink', t('text')],
  ['quiet', t('secondaryText')],
  ['background', t('outerBackground')],
  ['surface', t('background')],
];

/** Who it is from, what its first lines are, and the style of the house. */
export function EnvelopeForm() {
  const template = useAppSelector((s) => s.desk.template) as Template;
  const { change } = useEdit();
  const scope = useLoopScope([]);
  const dispatch = useAppDispatch();
  const { envelope, style } = template;
  const holds = envelope.only_if ? holdsIn(scope, envelope.only_if) : null;
  const put = (label: string, recipe: (draft: Template) => void) =>
    change(label, recipe, `envelope ${label}`);
  return (
    <ScopeProvider value={scope}>
      <Part title={t('content')}>
        <TextInput
          label={t('nameOfTheTemplate')}
          value={template.name}
          onChange={({ currentTarget: { value } }) =>
            value && put('Rename', (d) => void (d.name = value))
          }
        />
        <ShopChoice
          value={template.shop}
          onChange={(shop) => put('Change the shop', (d) => void (d.shop = shop))}
        />
        {LINES.map(({ key, label, description }) => (
          <LabelledLine
            key={key}
            label={label}
            {...(description && { description })}
            value={envelope[key] ?? ''}
            onChange={(value) =>
              put(`Edit the ${label.toLowerCase()}`, ({ envelope: draft }) => {
                if (key === 'to_name' && value === '') delete draft.to_name;
                else draft[key] = value;
              })
            }
          />
        ))}
        <TextInput
          label={t('senderAddress')}
          value={envelope.from_email}
          onChange={({ currentTarget: { value } }) =>
            put('Edit the address', (d) => void (d.envelope.from_email = value))
          }
        />
        <div data-condition>
          <ConditionField
            label={t('sendOnlyIf')}
            placeholder={t('toEveryoneItIsSentTo')}
            value={envelope.only_if ?? ''}
            shape={scope.shape}
            frames={scope.frames}
            now={holds === null ? null : holds ? t('yesItIsSent') : t('noEmail')}
            onChange={(value) =>
              put('Edit whom it is sent to', (d) => {
                if (value.trim() === '') delete d.envelope.only_if;
                else d.envelope.only_if = value;
              })
            }
          />
          {envelope.only_if !== undefined && (
            <AudienceBar
              shop={template.shop}
              formula={envelope.only_if}
              onLook={({ email }) =>
                dispatch(deskActions.searched({ search: email, having: 'all', filter: {} }))
              }
            />
          )}
        </div>
      </Part>
      <LinkTags />
      <Part title={t('houseStyle')}>
        <SimpleGrid cols={2} spacing={8}>
          {COLOURS.map(([key, label]) => (
            <ColourField
              key={key}
              label={label}
              value={String(style[key])}
              onChange={(value) =>
                value !== undefined &&
                put(
                  `Change ${label.toLowerCase()}`,
                  (d) => void Object.assign(d.style, { [key]: value }),
                )
              }
            />
          ))}
          <NumberInput
            label={t('textSize')}
            value={style.text_size}
            min={10}
            max={24}
            suffix=" px"
            onChange={(value) =>
              typeof value === 'number' &&
              put('Change the size', (d) => void (d.style.text_size = value))
            }
          />
          <NumberInput
            label={t('width')}
            value={style.width}
            min={320}
            max={900}
            suffix=" px"
            clampBehavior="blur"
            onChange={(value) =>
              typeof value === 'number' &&
              value >= 320 &&
              value <= 900 &&
              put('Change the width', (d) => void (d.style.width = value))
            }
          />
        </SimpleGrid>
      </Part>
    </ScopeProvider>
  );
}
