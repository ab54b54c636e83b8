import { RenderRequest } from '@carafe/contract';
import { build } from '@carafe/core/build';
import { readDate, type Fields } from '@carafe/core/formula';
import { reviveRecord } from '@carafe/core/record';
import { prepare } from '@carafe/core/render';
import type { Template } from '@carafe/core/template';
import { Router } from 'express';
import { z } from 'zod';
import type { Services } from '../app';
import { Refusal } from '../errors';
import { templateOrRefuse } from './templates';

/** An answer holds at most this many characters of HTML. */
const MAX_ANSWER = 100_000_000;

export function renderRoutes({ store, now }: Services): Router {
  const router = Router();

  const templateOf = (asked: z.infer<typeof RenderRequest>): Template => {
    if (asked.template !== undefined) return templateOrRefuse(asked.template);
    if (asked.template_id === undefined)
      throw new Refusal(400, 'Say what to fill: “template” or “template_id”.');
    const stored = store.templates.find(asked.template_id);
    if (!stored) throw new Refusal(404, `There is no template “${asked.template_id}”.`);
    return stored.template as Template;
  };

  router.post('/render', async (request, response) => {
    const asked = RenderRequest.parse(request.body);
    const { program, findings } = await build(templateOf(asked));
    const render = prepare(program, { trail: asked.trail === true });
    const asOf = (asked.as_of && readDate(asked.as_of)) || now();
    let length = 0;
    const mails = asked.records.map((record) => {
      const { mail, trail } = render(reviveRecord(record) as Fields, {
        asOf,
        locale: asked.locale,
      });
      length += mail.html.length;
      if (length > MAX_ANSWER)
        throw new Refusal(
          413,
          'These mails are too large for one answer: send fewer records at once.',
        );
      const { subject, preview_text, html, text } = mail;
      return { subject, preview_text, html, text, ...(trail && { trail }) };
    });
    response.json({ mails, findings });
  });

  /** A template made ready, for browsers to fill themselves. */
  router.post('/build', async (request, response) => {
    const { template } = z.strictObject({ template: z.unknown() }).parse(request.body);
    response.json(await build(templateOrRefuse(template)));
  });
  return router;
}
