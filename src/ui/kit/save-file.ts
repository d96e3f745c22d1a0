/** Gives a file to whoever asked for it. @param type its media type */
export function saveFile(name: string, parts: string[], type: string): void {
  const address = URL.createObjectURL(new Blob(parts, { type: `${type};charset=utf-8` }));
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}
