import type { Damaged } from '../database/storedDocument';
import type { LibraryRepository } from '../library/repository';
import type { MailSettingsRepository } from '../mail/settingsRepository';
import type { OccasionsRepository } from '../occasions/repository';
import type { ShopRulesRepository } from '../occasions/segmentsRepository';
import type { RulesRepository } from '../recommend/repository';
import type { ShopsRepository } from '../shops/repository';
import type { TemplatesRepository } from '../templates/repository';

interface DamagedDependencies {
  shops: Pick<ShopsRepository, 'damaged'>;
  templates: Pick<TemplatesRepository, 'damaged'>;
  occasions: Pick<OccasionsRepository, 'damaged'>;
  rules: Pick<RulesRepository, 'damaged'>;
  library: Pick<LibraryRepository, 'damaged'>;
  mailSettings: Pick<MailSettingsRepository, 'lost'>;
  shopRules: Pick<ShopRulesRepository, 'lost'>;
}

const sayDamaged = ({ what, shop, name, reason }: Damaged): string =>
  what === 'shop'
    ? `The shop “${name}” cannot be read from the database: ${reason} Nothing in it works until it is restored from a backup.`
    : `The ${what} “${name}” of the shop ${shop} cannot be read from the database: ${reason} It is set aside, and everything else goes on. Restore it from a backup.`;

const sayLost = (settings: string, fields: readonly string[]): string[] =>
  fields.length === 0
    ? []
    : [
        `Some of ${settings} could not be read from the database (${fields.join(', ')}) and were reset to their defaults. Check them and save them again.`,
      ];

/** What is stored and cannot be read, in sentences. */
export function damagedSentences(dependencies: DamagedDependencies): string[] {
  const { shops, templates, occasions, rules, library, mailSettings, shopRules } = dependencies;
  const documents = [shops, templates, occasions, rules, library].flatMap((from) => from.damaged());
  return [
    ...new Set(documents.map(sayDamaged)),
    ...sayLost('the mail settings', mailSettings.lost()),
    ...shopRules
      .lost()
      .flatMap(({ shop, fields }) =>
        sayLost(`the rules for all occasions of the shop ${shop}`, fields),
      ),
  ];
}
