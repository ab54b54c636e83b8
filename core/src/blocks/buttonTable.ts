import type { Writer } from '../build/writer';

interface ButtonInside {
  /** Where it leads, as running text, and where that stands in the node. */
  href: string;
  path: string;
  /** Its label as HTML. */
  label: string;
  /** Above and below, and at the sides, in pixels. */
  padding: [number, number];
}

/**
 * A button inside of another block, as a table like the button block’s own: mail programs that know no padding of links
 * colour the cell all the same.
 */
export function buttonTable({ href, path, label, padding }: ButtonInside, writer: Writer): string {
  const { primary, on_primary: ink, radius } = writer.style;
  const [y, x] = padding;
  return `<table role="presentation" border="0" cellpadding="0" cellspacing="0" style="border-collapse:separate;display:inline-table"><tr><td align="center" bgcolor="${primary}" valign="middle" style="border:0;border-radius:${radius}px;background:${primary};mso-padding-alt:${y}px ${x}px"><a href="${writer.url(href, path)}" target="_blank" style="display:inline-block;background:${primary};color:${ink};border-radius:${radius}px;padding:${y}px ${x}px;text-decoration:none;font-weight:600;mso-padding-alt:0px">${label}</a></td></tr></table>`;
}
