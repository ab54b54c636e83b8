import fc from 'fast-check';
import { simpleParser, type AddressObject } from 'mailparser';
import { mimeOf, type MimeMail } from './mime';

const MAIL: MimeMail = {
  from: { name: 'Quillmoss Seed House', address: 'post@quillmoss.example' },
  to: { name: '', address: 'maud@s.example' },
  ...{ subject: 'Your cart', date: new Date('2026-11-26T09:00:00Z') },
  ...{ messageId: '<abc@quillmoss.example>', text: 'Hello\n', html: '<p>Hello</p>' },
  headers: { 'List-Unsubscribe': '<https://s.example/mail/unsubscribe/x>' },
};
const read = (mail: Partial<MimeMail>) => simpleParser(mimeOf({ ...MAIL, ...mail }));

test('a message is as the standard wants it, and reads back', async () => {
  const bytes = mimeOf(MAIL).toString('latin1');
  expect(bytes.split('\r\n\r\n')[0]).toBe(
    [
      'From: Quillmoss Seed House <post@quillmoss.example>',
      ...['To: maud@s.example', 'Subject: Your cart', 'Message-ID: <abc@quillmoss.example>'],
      'Date: Thu, 26 Nov 2026 09:00:00 +0000',
      'List-Unsubscribe: <https://s.example/mail/unsubscribe/x>',
      'MIME-Version: 1.0',
      'Content-Type: multipart/alternative; boundary="=_abcquillmossexample"',
    ].join('\r\n'),
  );
  const back = await read({});
  expect([back.subject, back.text, back.html, back.messageId]).toEqual([
    ...[MAIL.subject, 'Hello\n', '<p>Hello</p>', MAIL.messageId],
  ]);
  expect((back.from as AddressObject).value).toEqual([MAIL.from]);
});

test('a name or a subject with line breaks begins no other header', async () => {
  const back = await read({
    subject: 'Hello\r\nBcc: everybody@s.example\r\n\r\nboo',
    from: { name: 'A\nBcc: x@s.example', address: 'post@s.example' },
    to: { name: 'Maud\r\nCc: z@s.example', address: 'maud@s.example' },
    headers: { 'X-Thing': 'a\r\nBcc: y@s.example' },
  });
  expect([back.bcc, back.cc]).toEqual([undefined, undefined]);
  expect((back.to as AddressObject).value).toHaveLength(1);
  expect(back.subject).toBe('Hello Bcc: everybody@s.example boo');
  expect(back.html).toBe('<p>Hello</p>');
});

test('any subject, name and body come back as they were; no line is too long', async () => {
  const words = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 200 });
  const oneLine = words
    .map((text) =>
      text
        .replace(/\p{C}|\p{Z}/gu, ' ')
        .replace(/ +/g, ' ')
        .trim(),
    )
    .filter((text) => text !== '');
  await fc.assert(
    fc.asyncProperty(oneLine, oneLine, words, async (subject, name, body) => {
      const text = `${body.replace(/\r\n?/g, '\n')}.`;
      const given = {
        ...MAIL,
        subject,
        from: { ...MAIL.from, name },
        to: { ...MAIL.to, name },
        text,
        html: `<p>${text}</p>`,
      };
      const bytes = mimeOf(given);
      for (const line of bytes.toString('latin1').split('\r\n'))
        expect(line.length).toBeLessThan(998);
      const back = await simpleParser(bytes);
      expect(back.subject).toBe(subject);
      expect((back.from as AddressObject).value[0]?.name).toBe(name);
      expect((back.to as AddressObject).value).toEqual([{ name, address: 'maud@s.example' }]);
      expect(back.html).toBe(given.html);
    }),
    { numRuns: 300 },
  );
});
