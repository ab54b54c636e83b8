/** The part of MJML 5 that is used here; the package ships no types. */
declare module 'mjml' {
  interface Options {
    validationLevel?: 'strict' | 'soft' | 'skip';
    keepComments?: boolean;
  }
  export default function mjml2html(source: string, options?: Options): Promise<{ html: string }>;
}
