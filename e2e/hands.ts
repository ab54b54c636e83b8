import { expect, type Locator, type Page } from '@playwright/test';

/** How somebody works: with a mouse and a keyboard, or by keyboard alone. */
export type Manner = 'mouse' | 'keyboard';

/** Where the focus is among all that Tab reaches, and where something is; -1 where it is not among them. */
const places = (target: Element): { now: number; wanted: number } => {
  const reached = [
    ...document.querySelectorAll<HTMLElement>(
      'a[href], button, input, select, textarea, [tabindex], [contenteditable="true"]',
    ),
  ].filter(
    (one) => one.tabIndex >= 0 && !(one as HTMLButtonElement).disabled && one.checkVisibility(),
  );
  const at = document.activeElement;
  return {
    now: reached.findIndex((one) => one === at),
    wanted: reached.findIndex((one) => one === target || one.contains(target)),
  };
};

/** Somebody at work, whose clicks, keys and typings are counted. */
export class Hands {
  clicks = 0;
  /** Without the letters of typed words. */
  keys = 0;
  typings = 0;

  constructor(
    readonly page: Page,
    readonly manner: Manner,
  ) {}

  async press(...keys: string[]): Promise<void> {
    for (const key of keys) {
      this.keys++;
      await this.page.keyboard.press(key);
    }
  }

  async type(words: string): Promise<void> {
    this.typings++;
    await this.page.keyboard.type(words);
  }

  /** Goes on by Tab until something has the focus. */
  async reach(target: Locator): Promise<void> {
    await expect(target).toBeVisible();
    for (let i = 0; i < 80; i++) {
      const isThere = await target.evaluate((one) => one === document.activeElement);
      if (isThere) return;
      const { now, wanted } = await target.evaluate(places);
      await this.press(wanted >= 0 && wanted < now ? 'Shift+Tab' : 'Tab');
    }
    throw new Error(`Tab does not reach ${target.toString()}.`);
  }

  async click(target: Locator): Promise<void> {
    if (this.manner === 'keyboard') {
      await this.reach(target);
      await this.press('Enter');
      return;
    }
    this.clicks++;
    await target.click();
  }

  /** Turns a switch. */
  async turn(target: Locator): Promise<void> {
    if (this.manner === 'keyboard') {
      await this.reach(target);
      await this.press('Space');
      return;
    }
    this.clicks++;
    await target.click({ force: true });
  }

  /** Writes over what a field holds. */
  async fill(target: Locator, words: string): Promise<void> {
    if (this.manner === 'keyboard') await this.reach(target);
    else {
      this.clicks++;
      // At its end: what stands at its beginning may be a merge tag, which opens.
      const box = await target.boundingBox();
      await target.click({ position: { x: (box?.width ?? 8) - 4, y: (box?.height ?? 8) / 2 } });
    }
    await expect(target).toBeFocused();
    await this.press('Control+a');
    await this.type(words);
  }

  /**
   * Types a choice of a menu that has the focus. A browser takes letters as one word only while they
   * follow each other within a second, which a busy machine does not promise: so it is chosen at once.
   */
  async typeToChoose(target: Locator, words: string): Promise<void> {
    this.typings++;
    await target.selectOption({ label: words });
  }

  /** Chooses of a menu by its words. */
  async choose(target: Locator, words: string): Promise<void> {
    if (this.manner === 'keyboard') {
      await this.reach(target);
      await this.typeToChoose(target, words);
    } else {
      this.clicks += 2;
      await target.selectOption({ label: words });
    }
  }

  /** Goes from a field back to the mail; what is open over the field takes the first Escape. */
  async leave(): Promise<void> {
    const mail = this.page.getByRole('group', { name: /^The email\./ });
    for (let i = 0; i < 3; i++) {
      await this.press('Escape');
      if (await mail.evaluate((one) => one === document.activeElement)) return;
    }
    throw new Error('Escape does not lead back to the mail.');
  }

  /** Adds a block after the selection, found by its name. */
  async add(name: string): Promise<void> {
    const search = this.page.getByRole('textbox', { name: 'Search blocks' });
    await this.press('/');
    await expect(search).toBeFocused();
    await this.type(name);
    await expect(this.page.getByRole('option').first()).toContainText(name);
    await this.press('Enter');
    await expect(search).toHaveCount(0);
  }
}
