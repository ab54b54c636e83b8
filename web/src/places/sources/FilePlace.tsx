import { useCallback, useEffect, useState } from 'react';
import { Button, Loader } from '@mantine/core';
import { Link, useNavigate, useParams } from 'react-router';
import type { ImportLook, ImportMode, ImportSummary, SourceSummary } from '@carafe/contract';
import type { FileSettings } from '@carafe/core/intake';
import { api, messageOf } from '../../app/api';
import { tellFailure, tellUndoable } from '../../parts/tell';
import { useLive } from '../../app/live';
import { Checking } from './Checking';
import { MappingView } from './MappingView';
import { Review } from './Review';
import classes from './File.module.css';

/** What the two steps of a file share. */
export interface Asked {
  settings: FileSettings;
  mode: ImportMode;
  raiseConsent: boolean;
}

/** A file on its way in: said which column is what, checked row by row, taken or not. */
export function FilePlace() {
  const { id = '', file = '' } = useParams();
  const navigate = useNavigate();
  const [source, setSource] = useState<SourceSummary | null>(null);
  const [look, setLook] = useState<ImportLook | null>(null);
  const [one, setOne] = useState<ImportSummary | null>(null);
  const [asked, setAsked] = useState<Asked | null>(null);
  /** Back at the mapping, though the file was checked already. */
  const [mapping, setMapping] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);

  const loadLook = useCallback(async (from: Promise<ImportLook>) => {
    const found = await from;
    setLook(found);
    setOne(found.import);
    if (found.settings)
      setAsked((before) => ({
        settings: found.settings as FileSettings,
        mode: before?.mode ?? found.import.mode,
        raiseConsent: before?.raiseConsent ?? false,
      }));
  }, []);
  useEffect(() => {
    let isCurrent = true;
    const load = async () => {
      const [{ source: found }, summary] = await Promise.all([
        api.source(id),
        api.importSummary(file),
      ]);
      if (!isCurrent) return;
      setSource(found);
      setOne(summary);
      document.title = `${summary.name} · Carafe`;
      if (summary.state !== 'applied' && summary.state !== 'undone') await loadLook(api.look(file));
    };
    load().catch((error: unknown) => isCurrent && setProblem(messageOf(error)));
    return () => {
      isCurrent = false;
    };
  }, [id, file, loadLook]);
  useLive((news) => {
    if (news.type !== 'import' || news.id !== file) return;
    if (news.state === 'checking')
      setOne((before) => before && { ...before, state: 'checking', progress: news.progress });
    else
      api
        .importSummary(file)
        .then(setOne)
        .catch((error: unknown) => setProblem(messageOf(error)));
  });

  const attempt = async (work: () => Promise<unknown>, title = 'Nothing was changed') => {
    try {
      await work();
    } catch (error) {
      tellFailure(error, title);
    }
  };
  const lookAgain = (settings: Partial<FileSettings>) =>
    attempt(() => loadLook(api.lookAgain(file, settings)));
  const check = () =>
    attempt(async () => {
      if (!asked) return;
      setMapping(false);
      const { settings, mode, raiseConsent } = asked;
      setOne(await api.check(file, { settings, mode, raise_consent: raiseConsent }));
    });
  const apply = () =>
    attempt(async () => {
      await api.apply(file);
      tellUndoable(`“${one?.name ?? 'The file'}” was taken in`, () => api.undoImport(file));
      await navigate(`/sources/${id}`);
    });
  const discard = () =>
    attempt(async () => {
      await api.discard(file);
      await navigate(`/sources/${id}`);
    });

  if (problem)
    return (
      <main className={classes.page}>
        <p role="alert">{problem}</p>
        <Button component={Link} to={`/sources/${id}`} variant="default">
          Back to the source
        </Button>
      </main>
    );
  if (!source || !one)
    return (
      <main className={classes.page}>
        <Loader size="sm" /> Looking at the file …
      </main>
    );
  const isMapping = mapping || ['looking', 'failed', 'stopped'].includes(one.state);
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <Link to={`/sources/${id}`} className={classes.back}>
          {source.name}
        </Link>
        <h1>{one.name}</h1>
      </header>
      {isMapping && one.state === 'failed' && !mapping && (
        <div role="alert" className={classes.alert}>
          {one.message} Nothing was changed.
        </div>
      )}
      {isMapping && look && (
        <MappingView
          source={source}
          look={look}
          asked={asked}
          onChange={setAsked}
          onLookAgain={(settings) => void lookAgain(settings)}
          onCheck={() => void check()}
          onDiscard={() => void discard()}
        />
      )}
      {one.state === 'checking' && (
        <Checking one={one} onStop={() => void attempt(() => api.stopImport(file))} />
      )}
      {!isMapping && one.state !== 'checking' && (
        <Review
          source={source}
          one={one}
          onBack={() => setMapping(true)}
          onApply={apply}
          onDiscard={() => void discard()}
        />
      )}
    </main>
  );
}
