import { ENDPOINTS } from '@carafe/contract';
import { Router } from 'express';
import { mount } from '../http/mount';
import type { PicturesService } from './service';

export function pictureRoutes(pictures: PicturesService): Router {
  const router = Router();
  mount(router, ENDPOINTS.listPictures, () => ({ pictures: pictures.list() }));
  mount(router, ENDPOINTS.uploadPicture, ({ query, request }) => pictures.add(query.name, request));
  mount(router, ENDPOINTS.changePicture, ({ params, body }) => pictures.change(params.id, body));
  mount(router, ENDPOINTS.replacePicture, ({ params, request }) =>
    pictures.replace(params.id, request),
  );
  mount(router, ENDPOINTS.deletePicture, ({ params }) => pictures.remove(params.id) as never);
  return router;
}

/** Where mails find the pictures of the library, and icons. */
export function drawnRoutes(pictures: PicturesService): Router {
  const router = Router();
  router.get('/icons/:shape/:colour/:kind.png', async ({ params }, response) => {
    const file = await pictures.icon(params.kind, params.shape, params.colour);
    response.sendFile(file, { maxAge: '7d', dotfiles: 'allow' });
  });
  router.get('/library/:id/:size', async (request, response) => {
    const file = await pictures.file(request.params.id, request.params.size);
    response.sendFile(file, { maxAge: '10m', dotfiles: 'allow' });
  });
  return router;
}
