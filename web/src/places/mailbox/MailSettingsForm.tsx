import { useState, type FormEvent } from 'react';
import {
  Button,
  Modal,
  NumberInput,
  SegmentedControl,
  Switch,
  TagsInput,
  TextInput,
} from '@mantine/core';
import { MailSettings } from '@carafe/contract';
import { mailApi } from '../../app/mailApi';
import { messageOf } from '../../app/ask';
import { FormFoot } from '../../parts/FormFoot';

type Smtp = Extract<MailSettings['server'], { kind: 'smtp' }>;
const FIRST: Smtp = { kind: 'smtp', host: '', port: 587, tls: false, user: '' };

/** How mails leave: into the stand-in mailbox, or by a mail server of one's own; and to whom tests may go. */
export function MailSettingsForm({ onClose }: { onClose: () => void }) {
  const { data } = mailApi.useMailSettingsQuery();
  if (!data) return null;
  return <Form first={data.settings} password={data.password} onClose={onClose} />;
}

interface Props {
  first: MailSettings;
  password: boolean;
  onClose: () => void;
}

function Form({ first, password, onClose }: Props) {
  const [settings, setSettings] = useState(first);
  const [problem, setProblem] = useState<string | null>(null);
  const [change, changing] = mailApi.useChangeMailSettingsMutation();
  const [tryServer, trying] = mailApi.useTryMailServerMutation();
  const { server } = settings;
  const smtp = (to: Partial<Smtp>) =>
    setSettings({ ...settings, server: { ...(server.kind === 'smtp' ? server : FIRST), ...to } });
  /** The settings where they can be; else says what is wrong. */
  const sound = (): MailSettings | null => {
    const read = MailSettings.safeParse(settings);
    setProblem(read.success ? null : (read.error.issues[0]?.message ?? null));
    return read.success ? read.data : null;
  };
  const save = async (event: FormEvent) => {
    event.preventDefault();
    const said = sound();
    if (!said) return;
    const { error } = await change(said);
    if (error) setProblem(messageOf(error));
    else onClose();
  };
  const tryOut = async () => {
    const said = sound();
    if (said) await tryServer(said);
  };
  return (
    <Modal opened onClose={onClose} title="How mails leave" size={520}>
      <form noValidate onSubmit={(event) => void save(event)}>
        <SegmentedControl
          aria-label="Mail server"
          mb={12}
          value={server.kind}
          data={[
            { value: 'mailbox', label: 'Into the mailbox' },
            { value: 'smtp', label: 'By a mail server' },
          ]}
          onChange={(kind) =>
            kind === 'smtp' ? smtp({}) : setSettings({ ...settings, server: { kind: 'mailbox' } })
          }
        />
        {server.kind === 'smtp' && (
          <>
            <TextInput
              label="Host"
              mb={10}
              placeholder="smtp.shop.example"
              value={server.host}
              onChange={({ currentTarget: { value } }) => smtp({ host: value })}
            />
            <NumberInput
              label="Port"
              mb={10}
              min={1}
              max={65_535}
              value={server.port}
              onChange={(port) => typeof port === 'number' && smtp({ port })}
            />
            <Switch
              label="TLS from the first byte"
              mb={10}
              checked={server.tls}
              onChange={({ currentTarget: { checked } }) => smtp({ tls: checked })}
            />
            <TextInput
              label="User"
              mb={10}
              description={
                password
                  ? 'The password is known, from CARAFE_SMTP_PASSWORD or its file.'
                  : 'The password comes from CARAFE_SMTP_PASSWORD, or a file in CARAFE_SMTP_PASSWORD_FILE.'
              }
              value={server.user}
              onChange={({ currentTarget: { value } }) => smtp({ user: value })}
            />
            <Button
              variant="default"
              size="compact-sm"
              loading={trying.isLoading}
              onClick={() => void tryOut()}
            >
              Try it
            </Button>
            {trying.data && (
              <p role="status" style={{ fontSize: 13 }}>
                {trying.data.message}
              </p>
            )}
          </>
        )}
        <TagsInput
          label="Tests may go to"
          description="Nowhere else. Enter adds an address."
          mt={10}
          value={settings.test_addresses}
          onChange={(test_addresses) => setSettings({ ...settings, test_addresses })}
        />
        <FormFoot problem={problem} submit="Save" busy={changing.isLoading} onCancel={onClose} />
      </form>
    </Modal>
  );
}
