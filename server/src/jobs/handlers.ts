import { build, skeletonsOf } from '@carafe/core/build';
import type { Store } from '../database/store';
import type { EventJobs } from '../events/service';
import { takeEvents } from '../events/takeEvents';
import { applyImport, inSlices, recoverImports, shopsOf, undoImport } from '../imports/apply';
import { checkFile } from '../imports/check';
import { lookForImport } from '../imports/lookAtFile';
import { HERE, type Reading } from '../imports/readBeside';
import type { ImportJobs } from '../imports/task';
import { noteProducts, tellNotes, type NoteLookJobs } from '../library/noteLooks';
import { advanceAll, type OccasionJobs } from '../occasions/advance';
import { countOccasions, type CountJobs } from '../occasions/counts';
import { handList, type HandListJobs } from '../occasions/handLists';
import { pastMail, type PastMailJobs } from '../occasions/pastMail';
import { replaySome, walkPerson, type ReplayJobs } from '../occasions/replays';
import { deliver, type DeliverJobs } from '../outbox/deliver';
import { fillMails, peekMail, type OutboxJobs } from '../outbox/fill';
import type { OutboxLookJobs } from '../outbox/looks';
import { audienceOf, type AudienceJobs } from '../people/audience';
import type { PeopleLookJobs } from '../people/lookJobs';
import { refreshStale, type PeopleParts } from '../people/refresh';
import { figuresOf, knownPicks, picksOf, picksOfMany, type PickJobs } from '../recommend/picks';
import { makeTaste, trialOf, type TrialJobs } from '../recommend/trials';
import { samplesOf, type SampleJobs } from '../people/samples';
import type { MailJobs } from '../mail/service';
import { fillFor } from '../render/fillFor';
import { renderRecords } from '../render/renderRecords';
import type { RenderJobs } from '../render/service';
import type { Repositories } from '../repositories';
import type { SharedJobs } from '../shops/service';
import { shapeOfShop, type ShapeJobs } from '../shops/shapes';
import { sharedText } from '../shops/sharedData';
import { profileRows, selectRows } from '../sources/selectRows';
import type { SourceJobs } from '../sources/service';
import type { RowJobs } from '../sources/sourceRows';
import { checkTemplate, type CheckJobs } from '../survey/checkTemplate';
import { makeOne, type MakeJobs } from '../survey/makeOne';
import { impactSome, type ImpactJobs } from '../survey/impactSome';
import { surveySome, type SurveyJobs } from '../survey/surveySome';
import { previewMail } from '../templates/preview';
import type { PreviewJobs } from '../templates/service';
import type { Job, JobHandlers } from './jobs';

/** All work that is done beside the server. */
export type AllJobs = ImportJobs &
  SourceJobs &
  RowJobs &
  EventJobs &
  RenderJobs &
  PreviewJobs &
  SharedJobs &
  ShapeJobs &
  AudienceJobs &
  SampleJobs &
  PickJobs &
  TrialJobs &
  MailJobs &
  OccasionJobs &
  ReplayJobs &
  PastMailJobs &
  OutboxJobs &
  DeliverJobs &
  SurveyJobs &
  CheckJobs &
  ImpactJobs &
  MakeJobs &
  CountJobs &
  HandListJobs &
  OutboxLookJobs &
  PeopleLookJobs &
  NoteLookJobs &
  StoreJobs;

/** Keeping the database in order. */
interface StoreJobs {
  checkpoint: Job<null, null>;
}

/** How each kind of work is done, over a database that is open; large files are read by `reading`. */
export function jobHandlers(
  store: Store,
  parts: Repositories & Pick<PeopleParts, 'folding'>,
  reading: Reading = HERE,
): JobHandlers<AllJobs> {
  return {
    look: lookForImport,
    check: (task, progress) => checkFile({ ...parts, reading }, task, progress),
    async apply(task, progress) {
      await applyImport(store, parts, task, progress);
      return null;
    },
    async undo(task) {
      await undoImport(store, parts, task);
      return null;
    },
    recover: (task) => recoverImports(store, parts, task),
    async refreshSource({ source, shop, now }) {
      const owners = parts.entries.owners(source);
      const shops = shopsOf(parts, shop);
      for (const one of shops) {
        await inSlices(store, owners, (some) => parts.stalePeople.add(one, some));
        await refreshStale(store, parts, one, { ranks: 'always', now });
      }
      return shops;
    },
    checkpoint() {
      store.checkpoint();
      return null;
    },
    takeEvents: (task) => takeEvents(store, parts, task),
    takeFewEvents: (task) => takeEvents(store, parts, task),
    selectRows: (query) => selectRows(parts, query),
    profile: ({ source }) => profileRows(parts, source),
    build: (template) => build(template),
    skeletons: skeletonsOf,
    render: (task) => renderRecords(parts, task),
    fill: (task) => fillFor(parts, task),
    preview: ({ template, now, person }) => previewMail(parts, template, new Date(now), person),
    sharedData: ({ shop, now, needs }) => sharedText(parts, shop, new Date(now), needs),
    shape: ({ shop, now }) => shapeOfShop(parts, shop, new Date(now)),
    picks: (task) => picksOf(parts, task),
    picksOfMany: (task) => picksOfMany(parts, task),
    ruleFigures: (task) => figuresOf(parts, task),
    trial: (task, progress) => trialOf(parts, task, progress),
    taste: (task) => makeTaste(store, parts, task),
    samples: (task) => samplesOf(parts, task, { picksOf: knownPicks(parts, task) }),
    advance: (task) => advanceAll(store, parts, task),
    replay: (task) => replaySome(parts, task),
    walk: (task) => walkPerson(parts, task),
    pastMail: (task) => pastMail(parts, task),
    fillMails: (task) => fillMails(store, parts, task),
    peekMail: (task) => peekMail(parts, task),
    deliver: (task) => deliver(store, parts, task),
    checkTemplate: (task) => checkTemplate(parts, task),
    surveyFew: (task) => surveySome(parts, task),
    surveyAside: (task) => surveySome(parts, task),
    makeOne: (task) => makeOne(parts, task),
    impact: (task) => impactSome(parts, task),
    survey: (task) => surveySome(parts, task),
    notes: ({ shop }) => tellNotes(parts, shop),
    noteProducts: (task) => noteProducts(parts, task),
    occasionCounts: ({ ids }) => countOccasions(parts, ids),
    insidePage: ({ occasion, limit, offset }) => parts.states.insideOf(occasion, limit, offset),
    handList: (task) => handList(parts, task),
    outboxPage: ({ wanted, limit, offset }) => ({
      total: parts.outbox.count(wanted),
      rows: parts.outbox.list(wanted, limit, offset),
    }),
    outboxAfter: ({ wanted, last, most }) => parts.outbox.after(wanted, last, most),
    outboxStates: ({ shop }) => ({
      states: parts.outbox.states(shop),
      reasons: parts.outbox.reasons(shop),
    }),
    recipients: ({ shop, wanted, limit, offset }) => parts.people.list(shop, wanted, limit, offset),
    standing: ({ shop, email }) => parts.people.standing(shop, email),
    facets: ({ shop }) => parts.people.facets(shop),
    audience: (task) => audienceOf(parts, task, { picksOf: knownPicks(parts, task) }),
  };
}
