import mjml2html from 'mjml';
import type { Template } from '../template/schema';
import { programOf, type BuildOptions, type Built } from './known';
import type { Build } from './mjml';
import { begin, buildOf, Kept, type Pieces } from './pieces';
import { skeletonsIn, type Skeletons } from './skeleton';

const kept = new Kept();

/** The pieces of a template. MJML is run once, for the sections and the document that are not known. */
async function piecesOf(template: Template, build: Build): Promise<Pieces> {
  const begun = begin(template, build, kept);
  if (!begun.asks) return begun.finish();
  const { html } = await mjml2html(begun.source(), {
    validationLevel: 'skip',
    keepComments: true,
  });
  return begun.finish(skeletonsIn(html));
}

/**
 * Builds a template into a program. MJML makes the HTML of each section once; sections that are as they
 * were are kept, and where only words are new they are put into the HTML that is there. What is written wrongly in
 * the template comes back as findings and stays out of the program, so that building never fails for what a designer
 * can do.
 */
export async function build(
  template: Template,
  { keepsAddresses = false }: BuildOptions = {},
): Promise<Built> {
  const own = buildOf(template);
  return programOf(template, own, await piecesOf(template, own), keepsAddresses);
}

/** What MJML makes of a template, for whoever builds it elsewhere. */
export async function skeletonsOf(template: Template): Promise<Skeletons> {
  return (await piecesOf(template, buildOf(template))).skeletons;
}
