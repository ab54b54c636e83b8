import { useCallback, useEffect, useState } from 'react';
import { ActionIcon, Button, Menu, TextInput } from '@mantine/core';
import {
  IconCopy,
  IconDots,
  IconPencil,
  IconPlus,
  IconSearch,
  IconTrash,
} from '@tabler/icons-react';
import { Link } from 'react-router';
import type { TemplateSummary } from '@carafe/contract';
import { readTemplate } from '@carafe/core/template';
import { api, messageOf } from '../../app/api';
import { ago } from '../../parts/ago';
import { tellFailure, tellUndoable } from '../../parts/tell';
import { NewTemplate } from './NewTemplate';
import { RenameDialog } from './RenameDialog';
import { Thumbnail } from './Thumbnail';
import classes from './TemplatesPlace.module.css';

/** All templates, each as its first recipient would see it. */
export function TemplatesPlace() {
  const [templates, setTemplates] = useState<TemplateSummary[] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [query, setQuery] = useState('');
  const [creating, setCreating] = useState(false);
  const load = useCallback(async () => {
    try {
      setTemplates((await api.templates()).templates);
      setProblem(null);
    } catch (error) {
      setProblem(messageOf(error));
    }
  }, []);
  useEffect(() => {
    document.title = 'Templates · Carafe';
    void load();
  }, [load]);
  const shown = templates?.filter(({ name, reads }) =>
    `${name} ${reads.join(' ')}`.toLowerCase().includes(query.trim().toLowerCase()),
  );
  return (
    <main className={classes.place}>
      <header className={classes.head}>
        <h1>Templates</h1>
        <TextInput
          aria-label="Search templates"
          placeholder="Search"
          leftSection={<IconSearch size={14} />}
          value={query}
          onChange={({ currentTarget: { value } }) => setQuery(value)}
        />
        <Button ml="auto" leftSection={<IconPlus size={15} />} onClick={() => setCreating(true)}>
          New template
        </Button>
      </header>
      {problem && (
        <div role="alert" className={classes.note}>
          {problem} <Button onClick={() => void load()}>Try again</Button>
        </div>
      )}
      {shown?.length === 0 && (
        <div className={classes.note}>
          {query
            ? `No template has “${query}” in its name or data.`
            : 'There is no template yet. Start one from a layout.'}
        </div>
      )}
      <ul className={classes.grid}>
        {shown?.map((summary) => (
          <TemplateCard key={summary.id} summary={summary} onChanged={load} />
        ))}
      </ul>
      <NewTemplate opened={creating} onClose={() => setCreating(false)} />
    </main>
  );
}

function TemplateCard({
  summary,
  onChanged,
}: {
  summary: TemplateSummary;
  onChanged: () => Promise<void>;
}) {
  const { id, name, reads, shop, updated_at, version } = summary;
  const [renaming, setRenaming] = useState(false);
  const attempt = async (work: () => Promise<unknown>) => {
    try {
      await work();
    } catch (error) {
      tellFailure(error);
    }
    await onChanged();
  };
  const remove = () =>
    attempt(async () => {
      await api.remove(id);
      tellUndoable(`“${name}” was deleted`, () => attempt(() => api.restore(id)));
    });
  const rename = (to: string) =>
    attempt(async () => {
      const stored = await api.template(id);
      const read = readTemplate(stored.template);
      if (!read.ok) throw new Error('This template cannot be read, so it cannot be renamed.');
      await api.save(id, stored.version, { ...read.template, name: to });
    });
  return (
    <li className={classes.card}>
      <Link to={`/templates/${id}`} className={classes.link} aria-label={`Open ${name}`}>
        <Thumbnail id={id} version={version} />
      </Link>
      <div className={classes.foot}>
        <div className={classes.words}>
          <Link to={`/templates/${id}`} className={classes.name}>
            {name}
          </Link>
          <div className="quiet">
            fills from <span className={classes.reads}>{reads.join(', ') || 'nothing'}</span>
          </div>
          <div className="quiet">
            {shop}, changed {ago(updated_at, new Date())}
          </div>
        </div>
        <Menu position="bottom-end">
          <Menu.Target>
            <ActionIcon variant="subtle" aria-label={`More for ${name}`}>
              <IconDots size={16} />
            </ActionIcon>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item leftSection={<IconPencil size={15} />} onClick={() => setRenaming(true)}>
              Rename
            </Menu.Item>
            <Menu.Item
              leftSection={<IconCopy size={15} />}
              onClick={() =>
                void attempt(() => api.create({ copy_of: id, name: `${name} (copy)` }))
              }
            >
              Duplicate
            </Menu.Item>
            <Menu.Item
              leftSection={<IconTrash size={15} />}
              color="clay"
              onClick={() => void remove()}
            >
              Delete
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
