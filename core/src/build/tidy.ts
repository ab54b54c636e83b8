/** Takes out indentation that MJML writes for readers; it means nothing in HTML. */
function tighten(html: string): string {
  return html.replace(/\n\s*/g, '\n').replace(/>\n(?=<\/?(?:table|tbody|tr|td|div)\b)/g, '>');
}

/** Lines of a mail may have 998 characters (RFC 5322, 2.1.1); what fills itself takes some of them. */
const LINE = 150;

/** Breaks long lines before attributes, where white space means nothing. */
function breakLines(html: string): string {
  let last = 0;
  return html.replace(/\n| (?=[a-z-]+=")/g, (space, at: number) => {
    if (space !== '\n' && at - last < LINE) return space;
    last = at;
    return '\n';
  });
}

/** HTML as it is sent: without indentation, in lines that mail servers let through. */
export const tidyHtml = (html: string): string => breakLines(tighten(html));
