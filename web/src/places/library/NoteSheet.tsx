import { useMemo, useState, type FormEvent } from 'react';
import { Select, TagsInput } from '@mantine/core';
import type { NotesOfShop } from '@carafe/contract';
import { PLACE_NAMES } from '@carafe/core/blocks';
import { NOTE_PLACES, type NotePlace, type ProductNote } from '@carafe/core/library';
import { ANY } from '@carafe/core/shape';
import { api, type KeptAs } from '../../app/api';
import { ProductsChoice } from '../../parts/ProductChoice';
import { PictureField } from '../../parts/pictures/PictureField';
import { SideSheet } from '../../parts/SideSheet';
import { ScopeProvider } from '../../parts/words/scope';
import { RichField } from '../../parts/words/WordsEditor';
import { LabelledLine } from '../../parts/LabelledLine';
import { SheetFoot } from '../../parts/SheetFoot';
import classes from './Library.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('library');

interface Props {
  shop: string;
  /** Null for a new one. */
  kept: KeptAs | null;
  note: ProductNote;
  choices: NotesOfShop;
  onClose: () => void;
}

/** As many as a note can name. */
const MOST_SKUS = 200;

/** One note: its words, what it goes with, and where it is shown. */
export function NoteSheet({ shop, kept, note: given, choices, onClose }: Props) {
  const [note, setNote] = useState(given);
  const { data: shape = ANY } = api.useShapeQuery(shop);
  const [addNote, adding] = api.useAddNoteMutation();
  const [changeNote, changing] = api.useChangeNoteMutation();
  const [deleteNote, deleting] = api.useDeleteNoteMutation();
  const put = (change: Partial<ProductNote>) => setNote((now) => ({ ...now, ...change }));
  const scope = useMemo(() => ({ shape, frames: [], context: null }), [shape]);
  const problem = adding.error ?? changing.error ?? deleting.error;
  const save = async (event: FormEvent) => {
    event.preventDefault();
    const { error } =
      kept === null ? await addNote({ shop, note }) : await changeNote({ ...kept, note });
    if (!error) onClose();
  };
  const remove = async () => {
    if (kept !== null && !(await deleteNote(kept.id)).error) onClose();
  };
  return (
    <SideSheet
      title={kept === null ? t('aNewNote') : t('productNote')}
      width={480}
      isForm
      onClose={onClose}
    >
      <ScopeProvider value={scope}>
        <form className={classes.form} onSubmit={(event) => void save(event)}>
          <LabelledLine
            label={t('title')}
            value={note.title}
            onChange={(title) => put({ title })}
          />
          <div>
            <div className="label">{t('words')}</div>
            <RichField label={t('words')} value={note.text} onChange={(text) => put({ text })} />
          </div>
          <PictureField
            label={t('picture')}
            value={note.image}
            onChange={(image) => put({ image })}
          />
          <LabelledLine label={t('link')} value={note.link} onChange={(link) => put({ link })} />
          <TagsInput
            label={t('forProductsInTheseCategories')}
            data={choices.categories}
            value={note.categories}
            onChange={(categories) => put({ categories })}
          />
          <TagsInput
            label={t('forProductsWithTheseTags')}
            data={choices.tags}
            value={note.tags}
            onChange={(tags) => put({ tags })}
          />
          <ProductsChoice
            shop={shop}
            label={t('forTheseProducts')}
            description={t('forEveryOrderIfNothingIs')}
            value={note.skus}
            most={MOST_SKUS}
            onChange={(skus) => put({ skus })}
          />
          <TagsInput
            label={t('forTheseOrderStatuses')}
            description={t('forAnyStatusIfNoneIs')}
            data={choices.statuses}
            value={note.statuses}
            onChange={(statuses) => put({ statuses })}
          />
          <Select
            label={t('place')}
            allowDeselect={false}
            data={NOTE_PLACES.map((value) => ({ value, label: PLACE_NAMES[value] }))}
            value={note.place}
            onChange={(place) => place && put({ place: place as NotePlace })}
          />
          <SheetFoot
            problem={problem}
            onDelete={kept === null ? undefined : () => void remove()}
            onCancel={onClose}
            busy={adding.isLoading || changing.isLoading}
          />
        </form>
      </ScopeProvider>
    </SideSheet>
  );
}
