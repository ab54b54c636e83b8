import type { Db } from './database/open';
import { deletedRepository } from './deleted/repository';
import { eventsRepository } from './events/repository';
import { generationsRepository } from './imports/generations';
import { importsRepository } from './imports/repository';
import { peopleChangesRepository } from './people/changesRepository';
import { erasingRepository } from './people/erasingRepository';
import { peopleRepository } from './people/repository';
import { stalePeopleRepository } from './people/staleRepository';
import { testRecipientsRepository } from './people/testRecipientsRepository';
import { libraryRepository } from './library/repository';
import { mailboxRepository } from './mail/mailboxRepository';
import { mailSettingsRepository } from './mail/settingsRepository';
import { occasionsRepository } from './occasions/repository';
import { crowdsRepository } from './occasions/crowdsRepository';
import { segmentsRepository, shopRulesRepository } from './occasions/segmentsRepository';
import { statesRepository } from './occasions/statesRepository';
import { leaseRepository } from './outbox/leaseRepository';
import { outboxRepository } from './outbox/repository';
import { ledgerRepository } from './outbox/ledgerRepository';
import { picturesRepository } from './pictures/repository';
import { rulesRepository } from './recommend/repository';
import { tasteRepository } from './recommend/tasteRepository';
import { clockRepository } from './schedule/clockRepository';
import { toTellRepository } from './occasions/toTellRepository';
import { jobsRepository } from './queue/jobsRepository';
import { shopsRepository } from './shops/repository';
import { shapesRepository } from './shops/shapesRepository';
import { entriesRepository } from './sources/entriesRepository';
import { productChangesRepository } from './sources/productChangesRepository';
import { sourcesRepository } from './sources/repository';
import { journalRepository } from './standins/journalRepository';
import { lookedRepository } from './survey/lookedRepository';
import { templateHealthRepository } from './templates/healthRepository';
import { publishedRepository } from './templates/publishedRepository';
import { templatesRepository } from './templates/repository';

/** One repository a table; all SQL but the migrations is in these. */
export function openRepositories(db: Db) {
  return {
    deleted: deletedRepository(db),
    shops: shopsRepository(db),
    shapes: shapesRepository(db),
    sources: sourcesRepository(db),
    entries: entriesRepository(db),
    productChanges: productChangesRepository(db),
    imports: importsRepository(db),
    generations: generationsRepository(db),
    events: eventsRepository(db),
    people: peopleRepository(db),
    erasing: erasingRepository(db),
    peopleChanges: peopleChangesRepository(db),
    stalePeople: stalePeopleRepository(db),
    testRecipients: testRecipientsRepository(db),
    looked: lookedRepository(db),
    templateHealth: templateHealthRepository(db),
    templates: templatesRepository(db),
    published: publishedRepository(db),
    library: libraryRepository(db),
    rules: rulesRepository(db),
    tastes: tasteRepository(db),
    mailSettings: mailSettingsRepository(db),
    mailbox: mailboxRepository(db),
    segments: segmentsRepository(db),
    shopRules: shopRulesRepository(db),
    occasions: occasionsRepository(db),
    crowds: crowdsRepository(db),
    states: statesRepository(db),
    toTell: toTellRepository(db),
    outbox: outboxRepository(db),
    ledger: ledgerRepository(db),
    queuedJobs: jobsRepository(db),
    lease: leaseRepository(db),
    movedClock: clockRepository(db),
    pictures: picturesRepository(db),
    posts: journalRepository(db),
  };
}
export type Repositories = ReturnType<typeof openRepositories>;
