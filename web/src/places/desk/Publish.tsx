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
    notifications.show({ message: `Published as version ${made.number}.` });
  };
  return (
    <Dialog opened onClose={onClose} title="Publish" size={520}>
      <form onSubmit={(event) => void send(event)}>
        {versions && !latest && (
          <p className={classes.told}>
            Nothing is published yet. Occasions send the published version.
          </p>
        )}
        {latest && template && read?.ok && (
          <Differences
            mine={read.template}
            theirs={template}
            title={`Changes since version ${latest.number}`}
            only={{ mine: 'removed', theirs: 'new' }}
          />
        )}
        <TextInput
          label="Note"
          mt={10}
          placeholder="What changed, and why"
          data-autofocus
          maxLength={500}
          value={note}
          onChange={({ currentTarget: { value } }) => setNote(value)}
        />
        {isBroken && (
          <TextInput
            label="Reason for publishing anyway"
            mt={10}
            maxLength={500}
            value={despite}
            onChange={({ currentTarget: { value } }) => setDespite(value)}
          />
        )}
        <FormFoot
          problem={
            save === 'saved' ? (error ? messageOf(error) : null) : 'The draft is being saved …'
          }
          submit="Publish"
          busy={isLoading}
          onCancel={onClose}
        />
      </form>
      {versions && versions.length > 0 && id && (
        <ul className={classes.versions} aria-label="Published">
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
        <strong>Version {number}</strong>{' '}
        <span className="quiet">
          {ago(at, now)}
          {note && `: ${note}`}
        </span>
      </span>
      <Button variant="default" size="compact-xs" loading={isFetching} onClick={() => void back()}>
        Restore as the draft
      </Button>
    </li>
  );
}
