/** So long what opens may take; what is typed meanwhile is forgotten after that. */
const PATIENCE_MS = 5_000;
/** A list that follows what is typed has done so after this. */
const FOLLOWS_MS = 40;

const isEditable = (element: Element | null): element is HTMLElement =>
  element instanceof HTMLInputElement ||
  element instanceof HTMLTextAreaElement ||
  (element instanceof HTMLElement &&
    (element.isContentEditable || element.getAttribute('contenteditable') === 'true'));

function type(into: HTMLElement, text: string): void {
  if (into instanceof HTMLInputElement || into instanceof HTMLTextAreaElement) {
    // As the browser sets it, so that whoever keeps the value in a state hears of it.
    const { set } = Object.getOwnPropertyDescriptor(Object.getPrototypeOf(into), 'value') ?? {};
    set?.call(into, into.value + text);
    into.dispatchEvent(new Event('input', { bubbles: true }));
    return;
  }
  // What is edited hears of nothing else as of typing.
  document.execCommand('insertText', false, text);
}

const press = (into: HTMLElement, key: string): boolean =>
  into.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));

/** Goes to the end, which no key that is told by a script does. */
function goToEnd(field: HTMLElement): void {
  if (field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement)
    field.setSelectionRange(field.value.length, field.value.length);
  else document.getSelection()?.modify('move', 'forward', 'lineboundary');
}

let stop: (() => void) | null = null;

/**
 * Keeps what is typed from now on until the next field has the focus, and types it there: whoever writes at once after having
 * opened something loses no letter, and none of them is taken for a key of the desk. Ends by itself. Where it may be that nothing opens,
 * as the words of what is hidden, arrows and the like go on as long as no letter was typed; End is meant for the words.
 */
export function holdKeys({ mayStayShut = false }: { mayStayShut?: boolean } = {}): void {
  stop?.();
  const before = document.activeElement;
  const held: string[] = [];
  let isReplaying = false;
  let isPressing = false;
  const end = () => {
    window.removeEventListener('keydown', hold, true);
    window.removeEventListener('pointerdown', end, true);
    document.removeEventListener('focusin', replay);
    clearTimeout(late);
    stop = null;
  };
  const hold = (event: KeyboardEvent) => {
    const { key } = event;
    if (isPressing || event.ctrlKey || event.metaKey || event.altKey || event.isComposing) return;
    if (key === 'Shift' || key === 'Dead') return;
    if (mayStayShut && held.length === 0 && key.length > 1 && key !== 'End') return end();
    event.preventDefault();
    event.stopImmediatePropagation();
    if (key === 'Backspace' && held.at(-1)?.length === 1) held.pop();
    else held.push(key);
  };
  const replay = () => {
    const field = document.activeElement;
    if (isReplaying || field === before || !isEditable(field)) return;
    isReplaying = true;
    clearTimeout(late);
    void (async () => {
      // Where the words are to go is said right after the focus has come.
      await new Promise((done) => setTimeout(done, 0));
      while (held.length > 0) {
        const some = held.findIndex((key) => key.length > 1);
        const letters = held.splice(0, some === -1 ? held.length : some).join('');
        if (letters !== '') type(field, letters);
        if (some === -1) continue;
        await new Promise((done) => setTimeout(done, FOLLOWS_MS));
        const key = held.shift() ?? '';
        if (key === 'End') goToEnd(field);
        isPressing = true;
        press(field, key);
        isPressing = false;
      }
      end();
    })();
  };
  const late = setTimeout(end, PATIENCE_MS);
  window.addEventListener('keydown', hold, true);
  window.addEventListener('pointerdown', end, true);
  document.addEventListener('focusin', replay);
  stop = end;
}
