/** Saves text as a file of the person’s own, by a name without what file systems refuse. */
export function saveFile(name: string, text: string, type: string): void {
  const address = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name.replace(/[\\/:*?"<>|\p{Cc}]+/gu, '-').slice(0, 120);
  link.click();
  URL.revokeObjectURL(address);
}
