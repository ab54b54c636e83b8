import type { Readable } from 'node:stream';
import type { ChangePicture, Picture } from '@carafe/contract';
import {
  CENTRE,
  ICON_KINDS,
  ICON_SHAPES,
  MAX_DRAWN,
  picturesNamed,
  type IconKind,
  type IconShape,
} from '@carafe/core/picture';
import type { Store } from '../database/store';
import { receiveFile } from '../http/receiveFile';
import { takenBack, type DeletedRepository } from '../deleted/repository';
import { Refusal } from '../http/errors';
import { usersByName, type UserParts } from '../templates/users';
import { PictureFiles } from './files';
import type { PicturesRepository, StoredPicture } from './repository';

const MAX_MEGABYTES = 20;

interface Given extends UserParts {
  store: Pick<Store, 'write'>;
  picturesTable: PicturesRepository;
  deleted: DeletedRepository;
  /** Folder of the library's files. */
  library: string;
  now: () => Date;
  newId: () => string;
}

/** The picture library. */
export class PicturesService {
  private readonly files: PictureFiles;

  constructor(private readonly given: Given) {
    this.files = new PictureFiles(given.library);
  }

  find(id: string): StoredPicture {
    const picture = this.given.picturesTable.find(id);
    if (!picture) throw new Refusal(404, 'There is no such picture.');
    return picture;
  }

  list(): Picture[] {
    const used = this.usage();
    return this.given.picturesTable
      .list()
      .map((one) => ({ ...one, used_by: used.get(one.id) ?? [] }));
  }

  private told(picture: StoredPicture): Picture {
    return { ...picture, used_by: this.usage().get(picture.id) ?? [] };
  }

  private usage(): Map<string, Picture['used_by']> {
    return usersByName(this.given, null, (template) => picturesNamed(JSON.stringify(template)));
  }

  /** Keeps a file that is sent; refuses what is no picture, or too large. */
  private async receive(body: Readable, id: string) {
    const incoming = this.files.incoming(this.given.newId());
    const bytes = await receiveFile(body, incoming, {
      most: MAX_MEGABYTES * 1_000_000,
      refusal: `A picture can have at most ${MAX_MEGABYTES} MB. Make it smaller. Emails show it at most 1,200 pixels wide.`,
    });
    if (bytes === 0) throw new Refusal(422, 'This file is empty.');
    if (this.files.isScriptedSvg(incoming)) {
      this.files.forgetIncoming(incoming);
      throw new Refusal(
        422,
        'This SVG contains a script, which is not allowed in emails. Remove the script, or save it as a PNG.',
      );
    }
    return { bytes, ...(await this.files.keep(incoming, id)) };
  }

  async add(name: string, body: Readable): Promise<Picture> {
    const { store, picturesTable, newId, now } = this.given;
    const id = newId();
    const facts = await this.receive(body, id);
    const picture: StoredPicture = {
      ...{ id, name, alt: '', tags: [], focus: CENTRE, version: 1 },
      ...{ ...facts, made_at: now().toISOString() },
    };
    await store.write(() => picturesTable.insert(picture));
    return this.told(picture);
  }

  async change(id: string, { focus, ...asked }: ChangePicture): Promise<Picture> {
    const { store, picturesTable } = this.given;
    return store.write(() => {
      const before = this.find(id);
      const defined = Object.fromEntries(
        Object.entries(asked).filter(([, value]) => value !== undefined),
      );
      const changed = {
        ...before,
        ...defined,
        ...(focus && { focus, version: before.version + 1 }),
      };
      picturesTable.update(changed);
      return this.told(changed);
    });
  }

  /** Another file under the same id: every mail that shows the picture shows the new one. */
  async replace(id: string, body: Readable): Promise<Picture> {
    const { store, picturesTable } = this.given;
    this.find(id);
    const facts = await this.receive(body, id);
    return store.write(() => {
      const before = this.find(id);
      const changed = { ...before, ...facts, focus: CENTRE, version: before.version + 1 };
      picturesTable.update(changed);
      return this.told(changed);
    });
  }

  async remove(id: string): Promise<void> {
    const { store, picturesTable, deleted, now } = this.given;
    const { used_by: used, name } = this.told(this.find(id));
    const [first] = used;
    if (first)
      throw new Refusal(
        409,
        `“${name}” is shown in “${first.name}”${used.length > 1 ? ` and ${used.length - 1} more` : ''}. Remove it there first.`,
      );
    await store.write(() => {
      const { used_by: _, ...document } = this.told(this.find(id));
      deleted.keep('picture', { id, shop: null, name, document }, now().toISOString());
      picturesTable.remove(id);
    });
  }

  /** Restores a picture, by the number of its deletion; gives its name. */
  restore(number: string): Promise<string> {
    const { store, picturesTable, deleted } = this.given;
    return store.write(() => {
      const { document, name } = takenBack(deleted.take<StoredPicture>('picture', number));
      picturesTable.insert(document);
      return name;
    });
  }

  /** Forgets the files of a picture that can no longer be restored. */
  forget(id: string): void {
    if (!this.given.picturesTable.find(id)) this.files.forget(id);
  }

  /** The file of an icon, drawn the first time that it is asked for. */
  icon(kind: string, shape: string, colour: string): Promise<string> {
    const isKnown = (ICON_KINDS as readonly string[]).includes(kind);
    const hasShape = (ICON_SHAPES as readonly string[]).includes(shape);
    if (!isKnown || !hasShape || !/^[0-9a-f]{6}$/.test(colour))
      throw new Refusal(404, 'There is no such icon.');
    return this.files.icon(kind as IconKind, shape as IconShape, `#${colour}`);
  }

  /** The file of a picture at a size written `600x400`, with the mark of a video as `600x400-play`. */
  async file(id: string, size: string): Promise<string> {
    // Emails that went out show it as long as it can be restored.
    const { picturesTable, deleted } = this.given;
    const kept = picturesTable.find(id) ? null : deleted.find<StoredPicture>('picture', id);
    const picture = kept ?? this.find(id);
    const [, w, h, mark] = /^(\d{1,4})x(\d{1,4})(-play)?$/.exec(size) ?? [];
    const [width, height] = [Number(w), Number(h)];
    if (!width || !height || width > MAX_DRAWN || height > MAX_DRAWN)
      throw new Refusal(
        404,
        'The size must be written as 600x400, with at most 2,400 pixels each way.',
      );
    try {
      return await this.files.at(picture, { width, height, isMarked: mark !== undefined });
    } catch (error) {
      // It was forgotten while it was drawn.
      if (this.given.deleted.find('picture', id) === null) this.find(id);
      throw error;
    }
  }
}
