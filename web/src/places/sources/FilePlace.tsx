import { useEffect, useState } from 'react';
import { Button, Loader } from '@mantine/core';
import { Link, useNavigate, useParams } from 'react-router';
import { skipToken } from '@reduxjs/toolkit/query';
import type { ImportLook } from '@carafe/contract';
import type { FileSettings } from '@carafe/core/intake';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { notifyFailure, notifyOf, notifyUndoable } from '../../parts/notify';
import { useLive } from '../../app/live';
import type { Asked } from './asked';
import { Checking } from './Checking';
import { MappingView } from './MappingView';
import { Review } from './Review';
import classes from './File.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

/** A file on its way in: said which column is what, checked row by row, imported or not. */
export function FilePlace() {
  const { id = '', file = '' } = useParams();
  const navigate = useNavigate();
  const { data: loaded, error: sourceError } = api.useSourceQuery(id);
  const { data: summary, error: importError } = api.useImportQuery(file);
  const isOver = summary?.state === 'applied' || summary?.state === 'undone';
  const { data: firstLook, error: lookError } = api.useLookQuery(
    summary && !isOver ? file : skipToken,
  );
  const [askLookAgain] = api.useLookAgainMutation();
  const [checkImport] = api.useCheckImportMutation();
  const [stopImport] = api.useStopImportMutation();
  const [applyImport] = api.useApplyImportMutation();
  const [undoImport] = api.useUndoImportMutation();
  const [discardImport] = api.useDiscardImportMutation();
  const [deleteSource] = api.useDeleteSourceMutation();
  const [anew, setAnew] = useState<ImportLook | null>(null);
  const [asked, setAsked] = useState<Asked | null>(null);
  /** Back at the mapping, though the file was checked already. */
  const [mapping, setMapping] = useState(false);
  const [progress, setProgress] = useState<number | null>(null);
  const source = loaded?.source;
  const isUnused =
    source?.last_import_at === null && source.rows === 0 && loaded?.imports.length === 1;
  const look = anew ?? firstLook ?? null;
  const one = summary && { ...summary, progress: progress ?? summary.progress };
  useEffect(() => {
    if (!look?.settings) return;
    setAsked((before) => ({
      settings: look.settings as FileSettings,
      mode: before?.mode ?? look.import.mode,
      raiseConsent: before?.raiseConsent ?? false,
    }));
  }, [look]);
  useEffect(() => {
    if (summary) document.title = t('nameCarafe', { name: summary.name });
  }, [summary]);
  useLive((update) => {
    if (update.type === 'import' && update.id === file) setProgress(update.progress);
  });

  const attempt = async (work: () => Promise<unknown>) => {
    try {
      await work();
    } catch (error) {
      notifyFailure(error);
    }
  };
  const lookAgain = (settings: Partial<FileSettings>) =>
    attempt(async () => setAnew(await askLookAgain({ id: file, settings }).unwrap()));
  const check = () =>
    attempt(async () => {
      if (!asked) return;
      setMapping(false);
      const { settings, mode, raiseConsent } = asked;
      const given = { settings, mode, raise_consent: raiseConsent };
      await checkImport({ id: file, asked: given }).unwrap();
    });
  const apply = () =>
    attempt(async () => {
      await applyImport(file).unwrap();
      notifyUndoable(t('nameWasImported', { name: one?.name ?? t('theFile') }), () =>
        undoImport(file).unwrap(),
      );
      await navigate(`/sources/${id}`);
    });
  const discard = () =>
    attempt(async () => {
      await discardImport(file).unwrap();
      if (!isUnused) return navigate(`/sources/${id}`);
      // It was made for this file alone: nothing of it stays.
      await deleteSource(id).unwrap();
      notifyOf(t('theFileWasDiscarded'), t('nameHadNothingElseSoIt', { name: source.name }));
      await navigate('/sources');
    });

  const problem = sourceError ?? importError ?? lookError;
  if (problem)
    return (
      <main className={classes.page}>
        <p role="alert">{messageOf(problem)}</p>
        <Button component={Link} to={`/sources/${id}`} variant="default">
          {t('backToTheSource')}
        </Button>
      </main>
    );
  if (!source || !one)
    return (
      <main className={classes.page}>
        <Loader size="sm" /> {t('readingTheFile')}
      </main>
    );
  const isBusy = one.state === 'checking' || one.state === 'applying';
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
          {t('messageNothingWasChanged', { message: one.message })}
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
      {isBusy && (
        <Checking one={one} onStop={() => void attempt(() => stopImport(file).unwrap())} />
      )}
      {!isMapping && !isBusy && (
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
