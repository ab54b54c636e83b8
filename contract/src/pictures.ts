import { z } from 'zod';
import { endpoint } from './endpoint';

const Tag = z.string().trim().min(1).max(40, 'A tag has at most 40 letters.');
const Share = z.number().min(0).max(1);
export const Focus = z.strictObject({ x: Share, y: Share, zoom: z.number().min(1).max(8) });

/** A picture of the library. */
export const Picture = z.object({
  id: z.string(),
  name: z.string(),
  alt: z.string(),
  tags: z.array(z.string()),
  /** In pixels. */
  width: z.number(),
  height: z.number(),
  /** Of the file as it was sent. */
  bytes: z.number(),
  type: z.enum(['jpeg', 'png', 'webp', 'gif']),
  focus: Focus,
  /** It changes with everything that changes how the picture looks. */
  version: z.number(),
  made_at: z.string(),
  /** The templates that show it. */
  used_by: z.array(z.object({ id: z.string(), name: z.string() })),
});
export type Picture = z.infer<typeof Picture>;

const ChangePicture = z.strictObject({
  name: z
    .string()
    .trim()
    .min(1, 'A picture needs a name.')
    .max(200, 'A name has at most 200 letters.')
    .optional(),
  alt: z.string().max(1000, 'Alt text has at most 1,000 letters.').optional(),
  tags: z.array(Tag).max(20, 'A picture has at most 20 tags.').optional(),
  focus: Focus.optional(),
});
export type ChangePicture = z.infer<typeof ChangePicture>;

const Name = z.object({ name: z.string().max(200).default('picture') });

export const pictureEndpoints = {
  listPictures: endpoint({
    method: 'GET',
    path: '/pictures',
    summary: 'The picture library, the newest first',
    answer: z.object({ pictures: z.array(Picture) }),
  }),
  uploadPicture: endpoint({
    method: 'POST',
    path: '/pictures',
    summary: 'A picture for the library',
    query: Name,
    takesFile: true,
    answer: Picture,
    status: 201,
  }),
  changePicture: endpoint({
    method: 'PATCH',
    path: '/pictures/:id',
    summary: 'Name, alt text, tags or focus of a picture',
    body: ChangePicture,
    answer: Picture,
  }),
  replacePicture: endpoint({
    method: 'PUT',
    path: '/pictures/:id/file',
    summary: 'Another file for a picture, everywhere it is shown',
    query: Name,
    takesFile: true,
    answer: Picture,
  }),
  deletePicture: endpoint({
    method: 'DELETE',
    path: '/pictures/:id',
    summary: 'Delete a picture that no template shows',
    answer: null,
  }),
};
