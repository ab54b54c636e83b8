import { useEffect, useState } from 'react';
import { ActionIcon, Button, Menu } from '@mantine/core';
import { IconCopy, IconDots, IconDownload, IconPencil, IconTrash } from '@tabler/icons-react';
import { Link } from 'react-router';
import { ENDPOINTS, type TemplateHealth, type TemplateSummary } from '@carafe/contract';
import { readTemplate } from '@carafe/core/template';
import { api } from '../../app/api';
import { ask, messageOf } from '../../app/ask';
import { useNow } from '../../app/useNow';
import { ago } from '../../parts/ago';
import { healthWords } from '../../parts/healthWords';
import { notifyFailure, notifyUndoable } from '../../parts/notify';
import { saveFile } from '../../parts/saveFile';
import { PlaceHead, PlaceSearch } from '../../parts/PlaceHead';
import { NewTemplate } from './NewTemplate';
import { RenameDialog } from './RenameDialog';
import { Thumbnail } from './Thumbnail';
import classes from './TemplatesPlace.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('templates');

/** All templates, each as its first recipient would see it. */
export function TemplatesPlace() {
  const { data, error, refetch } = api.useTemplatesQuery();
  const templates = data?.templates;
  const [query, setQuery] = useState('');
  const [creating, setCreating] = useState(false);
  useEffect(() => {
    document.title = t('templatesCarafe');
  }, []);
  const shops = api.useShopsQuery().data?.shops;
  const shopOf = (id: string) => shops?.find((one) => one.id === id)?.name ?? id;
  const shown = templates?.filter(({ name, reads, shop }) =>
    `${name} ${reads.join(' ')} ${shopOf(shop)}`.toLowerCase().includes(query.trim().toLowerCase()),
  );
  return (
    <main className={classes.place}>
      <PlaceHead
        title={t('templates')}
        beside={<PlaceSearch label={t('searchTemplates')} value={query} onChange={setQuery} />}
        add={t('newTemplate')}
        onAdd={() => setCreating(true)}
      />
      {error && (
        <div role="alert" className={classes.note}>
          {messageOf(error)} <Button onClick={() => void refetch()}>{t('tryAgain')}</Button>
        </div>
      )}
      {shown?.length === 0 && (
        <div className={classes.note}>
          {query ? t('noTemplateMatchesQueryByName', { query }) : t('noTemplatesYetStartOneFrom')}
        </div>
      )}
      <ul className={classes.grid}>
        {shown?.map((summary) => (
          <TemplateCard key={summary.id} summary={summary} shop={shopOf(summary.shop)} />
        ))}
      </ul>
      {creating && <NewTemplate onClose={() => setCreating(false)} />}
    </main>
  );
}

function TemplateCard({ summary, shop }: { summary: TemplateSummary; shop: string }) {
  const now = useNow();
  const { id, name, reads, updated_at, version, health } = summary;
  const [renaming, setRenaming] = useState(false);
  const [createTemplate] = api.useCreateTemplateMutation();
  const [renameTemplate] = api.useRenameTemplateMutation();
  const [deleteTemplate] = api.useDeleteTemplateMutation();
  const [restoreTemplate] = api.useRestoreTemplateMutation();
  const attempt = async (work: () => Promise<unknown>) => {
    try {
      await work();
    } catch (error) {
      notifyFailure(error);
    }
  };
  const remove = () =>
    attempt(async () => {
      await deleteTemplate(id).unwrap();
      notifyUndoable(t('nameWasDeleted', { name }), () => restoreTemplate(id).unwrap());
    });
  const save = () =>
    attempt(async () => {
      const { template } = await ask(ENDPOINTS.getTemplate, { params: { id } });
      saveFile(`${name}.json`, JSON.stringify(template, null, 2), 'application/json');
    });
  const rename = (to: string) =>
    attempt(async () => {
      const stored = await ask(ENDPOINTS.getTemplate, { params: { id } });
      const read = readTemplate(stored.template);
      if (!read.ok) throw new Error('This template cannot be read, so it cannot be renamed.');
      const template = { ...read.template, name: to };
      await renameTemplate({ id, version: stored.version, template }).unwrap();
    });
  return (
    <li className={classes.card}>
      <Link to={`/templates/${id}`} className={classes.link} aria-label={t('openName', { name })}>
        <Thumbnail id={id} version={version} />
      </Link>
      <div className={classes.foot}>
        <div className={classes.words}>
          <Link to={`/templates/${id}`} className={classes.name}>
            {name}
          </Link>
          <div className="quiet">
            {t('fillsFrom')}{' '}
            <span className={classes.reads}>{reads.join(', ') || t('nothing')}</span>
          </div>
          <div className="quiet">
            {t('shopChangedUpdatedAt', { shop, updated_at: ago(updated_at, now) })}
          </div>
          {health && <Health id={id} health={health} />}
        </div>
        <Menu position="bottom-end" withinPortal={false}>
          <Menu.Target>
            <ActionIcon variant="subtle" aria-label={t('moreForName', { name })}>
              <IconDots size={16} />
            </ActionIcon>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item leftSection={<IconPencil size={15} />} onClick={() => setRenaming(true)}>
              {t('rename')}
            </Menu.Item>
            <Menu.Item
              leftSection={<IconCopy size={15} />}
              onClick={() =>
                void attempt(() => createTemplate({ copy_of: id, name: `${name} (copy)` }).unwrap())
              }
            >
              {t('duplicate')}
            </Menu.Item>
            <Menu.Item leftSection={<IconDownload size={15} />} onClick={() => void save()}>
              {t('saveAsAFile')}
            </Menu.Item>
            <Menu.Item
              leftSection={<IconTrash size={15} />}
              color="clay"
              onClick={() => void remove()}
            >
              {t('delete')}
            </Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </div>
      <RenameDialog
        opened={renaming}
        name={name}
        onClose={() => setRenaming(false)}
        onRename={rename}
      />
    </li>
  );
}

/** What the last change of data did to a template that is sent. */
function Health({ id, health }: { id: string; health: TemplateHealth }) {
  const [letGo, { isLoading }] = api.useLetTemplateGoMutation();
  const now = useNow();
  const words = healthWords(health, now);
  if (words === '') return null;
  return (
    <div
      className={classes.health}
      role="status"
      data-broken={health.errors.length > 0 || undefined}
    >
      {words}{' '}
      {health.held !== null && (
        <Button
          size="compact-xs"
          variant="default"
          loading={isLoading}
          onClick={() =>
            void letGo(id).then(({ error }) => error !== undefined && notifyFailure(error))
          }
        >
          {t('sendThemAnyway')}
        </Button>
      )}
    </div>
  );
}
