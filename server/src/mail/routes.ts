import { ENDPOINTS } from '@carafe/contract';
import { Router } from 'express';
import { mount } from '../http/mount';
import type { MailService } from './service';

/** Tests, settings of mail, and the stand-in mailbox. */
export function mailRoutes(mail: MailService): Router {
  const router = Router();
  mount(router, ENDPOINTS.mailSettings, () => mail.settings());
  mount(router, ENDPOINTS.changeMailSettings, ({ query, body }) =>
    mail.changeSettings(query.version, body),
  );
  mount(router, ENDPOINTS.tryMailServer, ({ body }) => mail.tryOut(body));
  mount(router, ENDPOINTS.sendTest, ({ body }) => mail.sendTest(body));
  mount(router, ENDPOINTS.listMailbox, async () => ({ mails: await mail.mailbox() }));
  router.get('/mailbox/:id.eml', (request, response) => {
    const { id = '' } = request.params;
    const { source } = mail.taken(id);
    response.type('message/rfc822').attachment(`${id}.eml`).send(source);
  });
  mount(router, ENDPOINTS.readMailbox, ({ params }) => mail.read(params.id));
  mount(router, ENDPOINTS.emptyMailbox, () => mail.empty() as never);
  return router;
}
