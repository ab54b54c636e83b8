import { ask } from '../../../app/ask';
import { DeskData } from './deskData';
import type { ToWorker } from './messages';

/** The worker of the desk: messages in, messages out. */
const data = new DeskData({
  ask,
  post: (message) => postMessage(message),
  later(work, milliseconds) {
    const timer = setTimeout(work, milliseconds);
    return () => clearTimeout(timer);
  },
});

addEventListener('message', ({ data: message }: MessageEvent<ToWorker>) => {
  switch (message.type) {
    case 'template':
      data.setTemplate(message.template);
      break;
    case 'show':
      data.show(message.shown);
      break;
    case 'peek':
      data.peekAt(message.node);
      break;
    case 'live':
      data.update(message.update);
  }
});
