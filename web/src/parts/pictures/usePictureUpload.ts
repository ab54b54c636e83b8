import { useState } from 'react';
import { ENDPOINTS, type Picture } from '@carafe/contract';
import { api } from '../../app/api';
import { send } from '../../app/ask';
import { useAppDispatch } from '../../app/store';
import { notifyFailure } from '../notify';
import { wordsOf } from '../../words';

const t = wordsOf('parts');

/** Sends pictures to the library, one after the other; each that is refused is told by its name. */
export function usePictureUpload(): {
  /** Which share of what is being sent has gone; null while nothing is. */
  share: number | null;
  /** Gives the pictures that were kept. */
  add: (files: readonly File[]) => Promise<Picture[]>;
  replace: (id: string, file: File) => Promise<void>;
} {
  const [share, setShare] = useState<number | null>(null);
  const dispatch = useAppDispatch();
  const attempt = async <T>(file: File, work: () => Promise<T>): Promise<T | null> => {
    try {
      return await work();
    } catch (error) {
      notifyFailure(error, t('nameWasNotKept', { name: file.name }));
      return null;
    }
  };
  const during = async <T>(work: () => Promise<T>): Promise<T> => {
    setShare(0);
    try {
      return await work();
    } finally {
      setShare(null);
      dispatch(api.util.invalidateTags([{ type: 'picture', id: 'LIST' }]));
    }
  };
  return {
    share,
    add: (files) =>
      during(async () => {
        const kept: Picture[] = [];
        for (const [i, file] of files.entries()) {
          const told = (part: number) => setShare((i + part) / files.length);
          const asked = { query: { name: file.name || 'Pasted picture' } };
          const one = await attempt(file, () => send(ENDPOINTS.uploadPicture, asked, file, told));
          if (one) kept.push(one);
        }
        return kept;
      }),
    replace: (id, file) =>
      during(async () => {
        const asked = { params: { id }, query: { name: file.name } };
        await attempt(file, () => send(ENDPOINTS.replacePicture, asked, file, setShare));
      }),
  };
}

/** The picture files among what was pasted or dropped. */
export function picturesIn(data: DataTransfer | null): File[] {
  return [...(data?.files ?? [])].filter(({ type }) => type.startsWith('image/'));
}
