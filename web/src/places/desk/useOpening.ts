import { useEffect, useState } from 'react';
import { ENDPOINTS } from '@carafe/contract';
import { dataRead, havingFor } from '@carafe/core/check';
import { templateSites } from '@carafe/core/site';
import { placeInWords, readTemplate, type Template } from '@carafe/core/template';
import { api } from '../../app/api';
import { ask, messageOf } from '../../app/ask';
import { outboxApi } from '../../app/occasionsApi';
import { store, useAppDispatch } from '../../app/store';
import { movedNow } from '../../app/useNow';
import { deskActions } from './deskSlice';
import { askRecipientsAhead } from './recipientPages';
import { unsavedOf } from './unsaved';
import { savesDone } from './useSave';
import { prepareWorker, showAhead, tellAhead } from './worker/spare';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** What data a template reads: known where it came from the list of templates. */
function readsOf(id: string, version: number, template: Template): readonly string[] {
  const { data } = api.endpoints.templates.select()(store.getState());
  const listed = data?.templates.find((one) => one.id === id && one.version === version);
  return listed?.reads ?? dataRead(templateSites(template));
}

/** So long the desk waits for the list of recipients before it is drawn, in milliseconds. */
const LIST_MS = 120;

/** Who is shown first, and so many behind. */
const FIRST = 21;

/** Opens a template: gives whether the desk can be drawn, and what went wrong where it cannot. */
export function useOpening(id: string): { opened: boolean; problem: string | null } {
  const dispatch = useAppDispatch();
  // Not what the store still holds from before: that is read anew, and the desk starts with it.
  const [openedId, setOpenedId] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    setProblem(null);
    prepareWorker();
    const clock = dispatch(outboxApi.endpoints.clock.initiate());
    savesDone()
      .then(() => Promise.all([ask(ENDPOINTS.getTemplate, { params: { id } }), clock]))
      .then(([stored, { data }]) => {
        if (!current) return;
        const moved = data?.moved ?? 0;
        const unsaved = unsavedOf(id);
        const tell = unsaved ? undefined : tellAhead(stored.template as Template);
        const read = readTemplate(stored.template);
        if (!read.ok) {
          const [first] = read.problems;
          const place = first ? placeInWords(stored.template, first.path) || first.path : '';
          setProblem(t('thisTemplateCannotBeReadPlace', { place, message: first?.message ?? '' }));
          return;
        }
        tell?.(read.template);
        const reads = readsOf(id, stored.version, read.template);
        const having = havingFor(reads);
        const { shop } = read.template;
        const listed = askRecipientsAhead(shop, { filter: {}, having, search: '' });
        const expected = listed.then((list) => {
          const near = (list?.recipients ?? []).slice(0, FIRST).map((one) => one.id);
          const [person] = near;
          if (!current || person === undefined) return;
          showAhead({ person, near, asOf: movedNow(moved).toISOString() });
        });
        const open = () => {
          if (!current) return;
          const now = { ...stored, template: read.template };
          dispatch(deskActions.opened({ stored: now, having }));
          if (unsaved) dispatch(deskActions.recovered(unsaved));
          setOpenedId(id);
        };
        // Drawing the desk takes long: whoever is shown is asked for before, unless that takes longer.
        const later = new Promise((done) => setTimeout(done, LIST_MS));
        return Promise.race([expected, later]).then(open);
      })
      .catch((error: unknown) => current && setProblem(messageOf(error)));
    return () => {
      current = false;
      clock.unsubscribe();
    };
  }, [id, dispatch]);
  return { opened: openedId === id, problem };
}
