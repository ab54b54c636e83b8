import { NumberInput, Select, Switch } from '@mantine/core';
import type { ImportLook } from '@carafe/contract';
import {
  DELIMITER_NAMES,
  DELIMITERS,
  ENCODING_NAMES,
  ENCODINGS,
  FORMAT_NAMES,
  FORMATS,
  MAX_LINES_ABOVE,
  type Delimiter,
  type Dialect,
  type Encoding,
  type Format,
} from '@carafe/core/formats';
import type { FileSettings } from '@carafe/core/intake';
import { counted } from '@carafe/core/words';
import classes from './File.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

const QUOTES = [
  { value: '"', label: t('doubleQuotes') },
  { value: "'", label: t('singleQuotes') },
  { value: '-', label: t('none') },
];
const PLAIN: Dialect = { delimiter: ',', quote: '"', header: true };
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** How the file is written: found, shown, and each of it can be set. */
export function FormatForm({
  look,
  settings,
  onLookAgain,
}: {
  look: ImportLook;
  settings: FileSettings | null;
  onLookAgain: (settings: Partial<FileSettings>) => void;
}) {
  const dialect = settings?.dialect ?? PLAIN;
  const isTable = (settings?.format ?? 'table') === 'table';
  // What was mapped by hand is kept as long as the columns stay.
  const again = (change: Partial<FileSettings>) => {
    const base = settings
      ? { format: settings.format, encoding: settings.encoding, dialect: settings.dialect }
      : {};
    onLookAgain({ ...base, ...change });
  };
  return (
    <div className={classes.format}>
      <Select
        label={t('format')}
        w={210}
        value={settings?.format ?? null}
        placeholder={t('notKnown')}
        allowDeselect={false}
        data={FORMATS.map((value) => ({ value, label: FORMAT_NAMES[value] }))}
        onChange={(value) => value && onLookAgain({ format: value as Format })}
      />
      <Select
        label={t('encoding')}
        w={190}
        value={settings?.encoding ?? null}
        placeholder={t('notKnown')}
        allowDeselect={false}
        data={ENCODINGS.map((value) => ({ value, label: ENCODING_NAMES[value] }))}
        onChange={(value) => value && again({ encoding: value as Encoding })}
      />
      {isTable && (
        <>
          <Select
            label={t('separator')}
            w={130}
            value={dialect.delimiter}
            allowDeselect={false}
            data={DELIMITERS.map((value) => ({ value, label: capital(DELIMITER_NAMES[value]) }))}
            onChange={(value) =>
              value && again({ dialect: { ...dialect, delimiter: value as Delimiter } })
            }
          />
          <Select
            label={t('quoteCharacter')}
            w={140}
            value={dialect.quote || '-'}
            allowDeselect={false}
            data={QUOTES}
            onChange={(value) =>
              value &&
              again({
                dialect: { ...dialect, quote: (value === '-' ? '' : value) as Dialect['quote'] },
              })
            }
          />
          <NumberInput
            label={t('linesAboveTheTable')}
            w={165}
            min={0}
            max={MAX_LINES_ABOVE}
            clampBehavior="strict"
            allowDecimal={false}
            value={dialect.skip ?? 0}
            onChange={(value) =>
              typeof value === 'number' && again({ dialect: { ...dialect, skip: value } })
            }
          />
          <Switch
            label={t('firstRowIsAHeader')}
            checked={dialect.header}
            pb={6}
            onChange={({ currentTarget: { checked } }) =>
              again({ dialect: { ...dialect, header: checked } })
            }
          />
        </>
      )}
      {settings?.format === 'json' && look.lists.length > 0 && (
        <Select
          label={t('theList')}
          w={320}
          value={settings.pointer}
          allowDeselect={false}
          data={look.lists.map(({ pointer, length, fields }) => ({
            value: pointer,
            label: t('pointerRecordsWithSlice', {
              pointer: pointer || t('theDocumentItself'),
              records: counted(length, 'record'),
              slice: fields.slice(0, 3).join(', '),
            }),
          }))}
          onChange={(value) => value !== null && again({ pointer: value })}
        />
      )}
    </div>
  );
}
