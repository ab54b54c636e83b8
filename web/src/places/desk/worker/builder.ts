import { building, Kept, type Built } from '@carafe/core/build/known';
import { ENDPOINTS } from '@carafe/contract';
import { withElseShown, type Template } from '@carafe/core/template';
import type { ask as askServer } from '../../../app/ask';
import { made, type Made } from './filling';
import { LastGood } from './lastGood';

interface Outside {
  ask: typeof askServer;
  /** Something else can be filled now. */
  onBuilt: () => void;
  onFindings: (findings: Built['findings']) => void;
}

/**
 * Builds the mail after every edit, and the mail with the else that is looked at. One build at a time;
 * when it is done the latest edit is built, those in between are not.
 */
export class Builder {
  /** What is to be built: a template that stands alone. */
  template: Template | null = null;
  /** The node in an else that is looked at; null where none is. */
  peek: string | null = null;
  private built: Made | null = null;
  private builtPeek: Made | null = null;
  private isBuilding = false;
  private readonly lastGood = new LastGood();
  private readonly kept = new Kept();

  constructor(private readonly outside: Outside) {}

  /** The mail as it was built last. */
  get main(): Made | null {
    return this.built;
  }

  /** The mail with the else that is looked at. */
  get peeked(): Made | null {
    return this.builtPeek;
  }

  /** Builds the latest edit, if it is not being built. What goes wrong is thrown. */
  async latest(): Promise<void> {
    if (this.isBuilding) return;
    this.isBuilding = true;
    try {
      for (let isOpen = true; isOpen;) {
        if (this.template && this.built?.of !== this.template) await this.buildMain(this.template);
        else isOpen = await this.buildPeek();
      }
    } finally {
      this.isBuilding = false;
    }
  }

  private async buildMain(of: Template): Promise<void> {
    const { template, findings } = this.lastGood.of(of);
    const built = await this.build(template);
    this.built = made(of, template, built.program);
    // What is looked at stays as it was until it is built anew, but for an else that is no more.
    if (this.peek === null || !withElseShown(template, this.peek)) this.builtPeek = null;
    this.outside.onBuilt();
    this.outside.onFindings([...findings, ...built.findings]);
  }

  /** Builds a template; only of what is more than new words in it the server is asked for the HTML. */
  private build(template: Template): Built | Promise<Built> {
    const { asks, finish } = building(template, this.kept);
    if (!asks) return finish();
    return this.outside.ask(ENDPOINTS.skeletons, { body: { template: asks } }).then(finish);
  }

  /** Builds the mail with the else that is looked at; gives whether there was anything to build. */
  private async buildPeek(): Promise<boolean> {
    const { built, peek } = this;
    const template = built && peek !== null ? withElseShown(built.template, peek) : null;
    if (!template || !built) {
      if (this.builtPeek) {
        this.builtPeek = null;
        this.outside.onBuilt();
      }
      return false;
    }
    const key = JSON.stringify(template);
    if (this.builtPeek?.key === key) return false;
    const { program } = await this.build(template);
    this.builtPeek = { ...made(built.of, template, program), key };
    this.outside.onBuilt();
    return true;
  }
}
