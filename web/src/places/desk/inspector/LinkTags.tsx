import { ActionIcon, Button, Group, Stack, Text, TextInput } from '@mantine/core';
import { IconTrash } from '@tabler/icons-react';
import type { LinkTag, Template } from '@carafe/core/template';
import { useAppSelector } from '../../../app/store';
import { LabelledLine } from '../../../parts/LabelledLine';
import { useEdit } from '../useEdit';
import { Part } from './Part';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

const MOST = 8;
const NAME = /^[A-Za-z0-9_.-]{1,40}$/;

/** What is offered first: where a visit comes from, by what, and by which mail. */
function firstTags({ name }: Template): LinkTag[] {
  return [
    { parameter: 'source', value: '{{ shop.name }}' },
    { parameter: 'medium', value: 'email' },
    { parameter: 'name', value: name },
  ];
}

/** What the links of this template carry, so that the shop can tell where a visit came from. */
export function LinkTags() {
  const template = useAppSelector((s) => s.desk.template) as Template;
  const { change } = useEdit();
  const tags = template.link_tags ?? [];
  const put = (label: string, next: LinkTag[]) =>
    change(
      label,
      (draft) => {
        if (next.length === 0) delete draft.link_tags;
        else draft.link_tags = next;
      },
      `link tags ${label}`,
    );
  const changed = (at: number, to: Partial<LinkTag>) =>
    put(
      'Change link tags',
      tags.map((tag, i) => (i === at ? { ...tag, ...to } : tag)),
    );
  return (
    <Part title={t('linkTagging')}>
      {tags.length === 0 ? (
        <>
          <Text size="xs" c="dimmed">
            {t('linksAreNotTagged')}
          </Text>
          <Button
            size="xs"
            variant="default"
            onClick={() => put('Tag the links', firstTags(template))}
          >
            {t('tagTheLinks')}
          </Button>
        </>
      ) : (
        <Stack gap={8}>
          <Text size="xs" c="dimmed">
            {t('addedToEveryWebLinkExcept')}
          </Text>
          {tags.map(({ parameter, value }, i) => (
            <div key={i}>
              <Group gap={6} wrap="nowrap" align="flex-end" mb={4}>
                <TextInput
                  label={t('parameter')}
                  style={{ flex: 1 }}
                  defaultValue={parameter}
                  key={parameter}
                  onBlur={({ currentTarget }) => {
                    const name = currentTarget.value.trim();
                    if (NAME.test(name)) changed(i, { parameter: name });
                    else currentTarget.value = parameter;
                  }}
                />
                <ActionIcon
                  variant="subtle"
                  color="gray"
                  mb={4}
                  aria-label={t('deleteParameter', { parameter })}
                  onClick={() =>
                    put(
                      'Delete a link tag',
                      tags.filter((_, at) => at !== i),
                    )
                  }
                >
                  <IconTrash size={15} />
                </ActionIcon>
              </Group>
              <LabelledLine
                label={t('valueOfParameter', { parameter })}
                value={value}
                onChange={(next) => changed(i, { value: next })}
              />
            </div>
          ))}
          {tags.length < MOST && (
            <Button
              size="compact-xs"
              variant="subtle"
              style={{ alignSelf: 'flex-start' }}
              onClick={() =>
                put('Add a link tag', [
                  ...tags,
                  { parameter: `parameter_${tags.length + 1}`, value: '' },
                ])
              }
            >
              {t('addAParameter')}
            </Button>
          )}
        </Stack>
      )}
    </Part>
  );
}
