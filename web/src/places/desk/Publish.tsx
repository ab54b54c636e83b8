import { useState, type FormEvent } from 'react';
import { Button, TextInput } from '@mantine/core';
import { Dialog } from '../../parts/Dialog';
import { notifications } from '@mantine/notifications';
import { skipToken } from '@reduxjs/toolkit/query';
import type { Published } from '@carafe/contract';
import { readTemplate, type Template } from '@carafe/core/template';
import { messageOf } from '../../app/ask';
import { publishingApi } from '../../app/publishingApi';
import { useDeskState } from '../../app/store';
import { useNow } from '../../app/useNow';
import { ago } from '../../parts/ago';
import { FormFoot } from '../../parts/FormFoot';
import { Differences } from './Differences';
import { useEdit } from './useEdit';
import classes from './Desk.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** What is published of the template on the desk, what the draft has beside it, and the way back. */
export function Publish({ onClose }: { onClose: () => void }) {
  const { id, version, template, save } = useDeskState('id', 'version', 'template', 'save');
  const { data } = publishingApi.usePublishedQuery(id ?? skipToken);
  const [publish, { isLoading, error }] = publishingApi.usePublishMutation();
  const [note, setNote] = useState('');
  const [despite, setDespite] = useState('');
  const isBroken = (error as { status?: number } | undefined)?.status === 428;
  const versions = data?.versions;
  const [latest] = versions ?? [];
  const { data: last } = publishingApi.usePublishedVersionQuery(
    id && latest ? { id, number: latest.number } : skipToken,
  );
  const read = last ? readTemplate(last.template) : null;
  const send = async (event: FormEvent) => {
    event.preventDefault();
    if (!id) return;
    const { data: made } = await publish({
      ...{ id, version, note },
      ...(despite.trim() !== '' && { despite }),
    });
    if (!made) return;
    onClose();
    notifications.show({ message: t('publishedAsVersionNumber', { number: made.number }) });
  };
  return (
    <Dialog opened onClose={onClose} title={t('publish')} size={520}>
      <form onSubmit={(event) => void send(event)}>
        {versions && !latest && (
          <p className={classes.told}>{t('nothingIsPublishedYetOccasionsSend')}</p>
        )}
        {latest && template && read?.ok && (
          <Differences
            mine={read.template}
            theirs={template}
            title={t('changesSinceVersionNumber', { number: latest.number })}
            only={{ mine: t('removed'), theirs: t('new') }}
          />
        )}
        <TextInput
          label={t('note')}
          mt={10}
          placeholder={t('whatChangedAndWhy')}
          data-autofocus
          maxLength={500}
          value={note}
          onChange={({ currentTarget: { value } }) => setNote(value)}
        />
        {isBroken && (
          <TextInput
            label={t('reasonForPublishingAnyway')}
            mt={10}
            maxLength={500}
            value={despite}
            onChange={({ currentTarget: { value } }) => setDespite(value)}
          />
        )}
        <FormFoot
          problem={save === 'saved' ? (error ? messageOf(error) : null) : t('theDraftIsBeingSaved')}
          submit={t('publish')}
          busy={isLoading}
          onCancel={onClose}
        />
      </form>
      {versions && versions.length > 0 && id && (
        <ul className={classes.versions} aria-label={t('published')}>
          {versions.map((one) => (
            <Version key={one.number} id={id} published={one} onBack={onClose} />
          ))}
        </ul>
      )}
    </Dialog>
  );
}

interface VersionProps {
  id: string;
  published: Published;
  onBack: () => void;
}

function Version({ id, published: { number, at, note }, onBack }: VersionProps) {
  const now = useNow();
  const [load, { isFetching }] = publishingApi.useLazyPublishedVersionQuery();
  const { change } = useEdit();
  /** The draft becomes what was published: an edit like any other, which can be undone. */
  const back = async () => {
    const { data } = await load({ id, number });
    const read = data ? readTemplate(data.template) : null;
    if (!read?.ok) return;
    change(
      `Restore version ${number}`,
      (draft: Template) => void Object.assign(draft, read.template),
    );
    onBack();
  };
  return (
    <li>
      <span>
        <strong>{t('versionNumber', { number })}</strong>{' '}
        <span className="quiet">
          {ago(at, now)}
          {note && `: ${note}`}
        </span>
      </span>
      <Button variant="default" size="compact-xs" loading={isFetching} onClick={() => void back()}>
        {t('restoreAsTheDraft')}
      </Button>
    </li>
  );
}
