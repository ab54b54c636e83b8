import type { Template } from '@carafe/core/template';
import type { Express } from 'express';
import type { Logger } from 'pino';
import { createApp } from './app';
import type { Store } from './database/store';
import { loadDemo } from './demo/loadDemo';
import { eventRoutes } from './events/routes';
import { deletedRoutes } from './deleted/routes';
import { DeletedService } from './deleted/service';
import { EventsService } from './events/service';
import { importRoutes } from './imports/routes';
import { ImportsService } from './imports/service';
import type { AllJobs } from './jobs/handlers';
import type { Jobs } from './jobs/jobs';
import { LiveUpdates } from './live/liveUpdates';
import { liveRoutes } from './live/routes';
import { libraryRoutes } from './library/routes';
import { LibraryService } from './library/service';
import { Door } from './mail/door';
import { mailRoutes } from './mail/routes';
import { MailService } from './mail/service';
import { StandInMailServer } from './mail/standInServer';
import { OccasionLooks } from './occasions/looking';
import { SegmentsService } from './occasions/segments';
import { OccasionsService } from './occasions/service';
import { occasionRoutes } from './occasions/routes';
import { Runner } from './occasions/runner';
import { surveyRoutes } from './survey/routes';
import { TemplateWatch } from './survey/watch';
import { TestRecipients } from './survey/testRecipients';
import { LookedVariants } from './survey/looked';
import { SurveyService } from './survey/service';
import { Lease } from './outbox/lease';
import { homeRoutes } from './outbox/pages';
import { outboxRoutes } from './outbox/routes';
import { Sender } from './outbox/sender';
import { OutboxService } from './outbox/service';
import { drawnRoutes, pictureRoutes } from './pictures/routes';
import { PicturesService } from './pictures/service';
import { ruleRoutes } from './recommend/routes';
import { RulesService } from './recommend/service';
import { renderRoutes } from './render/routes';
import { RenderService } from './render/service';
import { openRepositories } from './repositories';
import { Clock, every } from './schedule/clock';
import { FetchService } from './schedule/fetchService';
import { MovableClock } from './schedule/movable';
import { shopRoutes } from './shops/routes';
import { ShopsService } from './shops/service';
import { ShopShapes } from './shops/shopShapes';
import { sourceRoutes } from './sources/routes';
import { SourcesService } from './sources/service';
import { SourceRows } from './sources/sourceRows';
import { journalRoutes } from './standins/journal';
import { standInShopRoutes } from './standins/shop';
import type { Asked } from './imports/fileChecks';
import { JobQueue } from './queue/queue';
import { attentionItems } from './system/attention';
import { damagedSentences } from './system/damaged';
import { healthOf } from './system/health';
import { systemRoutes } from './system/routes';
import { Publishing } from './templates/publishing';
import { templateRoutes } from './templates/routes';
import { TemplatesService } from './templates/service';

/** What comes from outside: the database, threads, the clock, ids, addresses, folders. */
export interface Outside {
  store: Store;
  jobs: Jobs<AllJobs> & { waiting?: () => Record<string, number> };
  /** The folder of the data; left out where it is in memory. */
  folder?: string;
  log: Logger;
  now: () => Date;
  newId: () => string;
  /** Where files stay while they are looked at. */
  files: string;
  /** Folder of the demo's pictures. */
  pictures: string;
  /** Folder of the picture library. */
  library: string;
  /** Folder of the built interface; left out in development. */
  web?: string | undefined;
  /** The address that this server answers at, for its own stand-ins. */
  self: () => string;
  /** The password of the mail server; null where none is given. */
  mailPassword: () => string | null;
  /** The host that this password is for; null where nobody said it. */
  mailPasswordHost: string | null;
  /** The file of the key that mails are signed with. */
  dkimKeyFile?: string | undefined;
  /** Lets `now` be so many milliseconds ahead. */
  setMoved: (milliseconds: number) => void;
  /** The real time, in milliseconds. */
  real: () => number;
  /** The access token that is asked for; without one, only this machine is answered. */
  token?: string | undefined;
}

/** Puts the server together; nothing else knows all of it. */
export function compose(outside: Outside) {
  const { store, jobs, log, now, newId, self, token } = outside;
  const tables = openRepositories(store.db);
  const updates = new LiveUpdates(newId());
  const common = { store, jobs, updates, now, newId, log };
  const imports = new ImportsService({
    ...{ ...common, ...tables, folder: outside.files },
    doNow: (job) => queue.doNow(job),
  });
  const fetching = new FetchService({
    ...{ ...common, sources: tables.sources, imports, self, token },
    enqueue: (job) => queue.add(job),
  });
  const sources = new SourcesService({
    ...common,
    ...tables,
    importsTable: tables.imports,
    imports,
    fetching,
    self,
    doNow: (job) => queue.doNow(job),
  });
  const shops = new ShopsService({ ...common, ...tables, shared: tables, self });
  const templates = new TemplatesService({ ...common, ...tables });
  const pictures = new PicturesService({
    ...common,
    ...{ templates: tables.templates, published: tables.published },
    ...{ deleted: tables.deleted, picturesTable: tables.pictures, library: outside.library },
  });
  const rules = new RulesService({ ...common, ...tables });
  const shapes = new ShopShapes({ ...common, shapes: tables.shapes });
  const surveys = new SurveyService({ ...common, ...tables, rules, shapes, self, token });
  const watch = new TemplateWatch({ ...common, ...tables, surveys });
  const mailServer = new StandInMailServer({ store, mailbox: tables.mailbox, now, newId });
  const settings = () => tables.mailSettings.get();
  const door = new Door({
    ...{ settings, password: outside.mailPassword, dkimKeyFile: outside.dkimKeyFile },
    passwordHost: outside.mailPasswordHost,
    mailboxPort: () => mailServer.port,
  });
  const mail = new MailService({
    ...common,
    ...tables,
    rules,
    password: outside.mailPassword,
    hasDkimKey: outside.dkimKeyFile !== undefined,
    ...{ door, self, onChanged: () => sender.afresh() },
  });
  const lease = new Lease({
    ...{ store, lease: tables.lease, real: outside.real, holder: newId(), pid: process.pid },
  });
  const sender = new Sender({ ...common, ...tables, door, settings, rules, lease, self });
  const queue = new JobQueue({ ...common, ...tables });
  const runner = new Runner({ ...common, ...tables, rules, sender });
  const occasions = new OccasionsService({ ...common, ...tables, runner, sender });
  const outbox = new OutboxService({ ...common, ...tables, rules, sender, self });
  queue.register('person', {
    ...{ name: 'Deciding what a person receives', limit: 10 * 60_000 },
    run: ({ shop, payload }) => runner.again(shop ?? '', JSON.parse(payload) as { id: number }),
  });
  queue.register('fetch', {
    ...{ name: 'Fetching a source', limit: 20 * 60_000 },
    run: ({ key }) => fetching.fetchById(key),
  });
  queue.register('check', {
    ...{ name: 'Checking a file', limit: 60 * 60_000 },
    run: ({ key, payload }) => imports.runCheck(key, JSON.parse(payload) as Asked),
  });
  queue.register('refresh', {
    ...{ name: 'Updating people after a source changed', limit: 2 * 60 * 60_000 },
    run: ({ key, shop }) => sources.refresh(key, shop),
  });
  const library = new LibraryService({ ...common, ...tables });
  const segments = new SegmentsService({ ...common, ...tables });
  const deleted = new DeletedService({
    ...{ store, deleted: tables.deleted, now },
    restore: {
      template: async (id) => ((await templates.restore(id)).template as Template).name,
      occasion: (id) => occasions.restore(id),
      picture: (id) => pictures.restore(id),
      note: (id) => library.restoreNote(id),
      formula: (id) => library.restoreFormula(id),
      rule: (id) => rules.restore(id),
      segment: (id) => segments.restore(id),
    },
    forgetPicture: (id) => pictures.forget(id),
  });
  const health = () =>
    healthOf({
      ...{ ...tables, clock, files: imports, now, folder: outside.folder ?? null },
      paused: () => sender.state().paused,
      waiting: () => jobs.waiting?.() ?? {},
      damaged: () => damagedSentences(tables),
    });
  const events = new EventsService(jobs, updates, now, (...told) => runner.heard(...told));
  const movable = new MovableClock({
    ...{ ...common, movedClock: tables.movedClock, setMoved: outside.setMoved },
    isTestOnly: () => settings().test_only,
    moveTo: (at) => runner.moveTo(at),
    idle: () => runner.idle(),
  });
  // By the real time: a clock that was moved on has not stood still.
  const clock = new Clock(() => new Date(outside.real()), log);
  clock.onTick(() => runner.tick());
  clock.onTick(() => fetching.fetchDue());
  clock.onTick(() => queue.tick());
  clock.onTick(every(24, now, () => imports.clean()));
  clock.onTick(every(24, now, () => outbox.clean()));
  clock.onTick(every(24, now, () => deleted.clean()));
  clock.onTick(every(24, now, () => runner.lookAt('date_of_person')));
  clock.onTick(every(1, now, () => runner.lookAt('segment_changed')));
  clock.onTick(async () => void (await jobs.run('checkpoint', null)));

  const render = new RenderService(tables, jobs, now, () =>
    (settings().public_url ?? self()).replace(/\/+$/, ''),
  );
  const app: Express = createApp({
    ...outside,
    library: drawnRoutes(pictures),
    api: [
      templateRoutes(templates, new Publishing({ ...common, ...tables, surveys }), watch, render),
      renderRoutes(render),
      shopRoutes({
        ...{ shops, rules, people: tables.people, jobs, now },
        shapes,
      }),
      surveyRoutes(
        surveys,
        new TestRecipients({ ...common, ...tables }),
        new LookedVariants({ ...common, ...tables }),
        shops,
      ),
      sourceRoutes({
        sources,
        imports,
        rows: new SourceRows(tables, jobs, now),
        used: tables,
      }),
      importRoutes({ imports, sources, entries: tables.entries }),
      pictureRoutes(pictures),
      ruleRoutes({ shops, rules }),
      mailRoutes(mail),
      libraryRoutes({
        ...{ shops, jobs, now, library },
      }),
      deletedRoutes(deleted),
      eventRoutes(events),
      occasionRoutes({
        ...{ occasions, shops, looks: new OccasionLooks({ ...common, ...tables }) },
        segments,
      }),
      outboxRoutes(outbox, shops),
      liveRoutes(updates),
      systemRoutes(
        health,
        movable,
        () => attentionItems({ ...tables, sender, queue, now, problems: () => health().problems }),
        queue,
      ),
    ],
    home: homeRoutes({
      ...{ ...common, ...tables, settings },
      take: (some) => events.take(some),
    }),
    shop: standInShopRoutes(now),
    journal: journalRoutes({ store, posts: tables.posts, now, newId }),
  });
  return {
    app,
    clock,
    tables,
    updates,
    imports,
    rules,
    mailServer,
    runner,
    sender,
    queue,
    fetching,
    watch,
    loadDemo: () => loadDemo({ ...common, ...tables, imports, pictures }),
  };
}
