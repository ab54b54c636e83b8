import type { Transporter } from 'nodemailer';

/** How far a mail came on its way into the mail server’s hands. */
interface Hands {
  /** Whether the server was spoken to about this mail. */
  isBegun(): boolean;
  /** Whether it was given every byte: what becomes of the mail then is its doing. */
  isWhole(): boolean;
  /** Goes along with the mail. */
  told: { hands: { begun: () => void; whole: () => void } };
}

/** For one mail that is handed over by a watched transport. */
export function handing(): Hands {
  let [isBegun, isWhole] = [false, false];
  return {
    isBegun: () => isBegun,
    isWhole: () => isWhole,
    told: { hands: { begun: () => (isBegun = true), whole: () => (isWhole = true) } },
  };
}

/**
 * Lets a transport tell of each mail how far it came. Its bytes are asked for when a connection stands that lets
 * Carafe in, and have all been read when there is nothing left but to wait for the answer.
 */
export function watchHandover(transport: Transporter): void {
  transport.use('stream', (mail, done) => {
    const { hands } = mail.data as Partial<Hands['told']>;
    const { message } = mail;
    const read = message.createReadStream.bind(message);
    message.createReadStream = (options) => {
      hands?.begun();
      const bytes = read(options);
      if (hands) bytes.once('end', hands.whole);
      return bytes;
    };
    done();
  });
}
