/** A document of two pages: the first white, the second black in its upper half. */
export function twoPages(): Buffer {
  const drawn = ["", "0 0 0 rg 0 100 200 100 re f"];
  const objects = [
    "<< /Type /Catalog /Pages 2 0 R >>",
    "<< /Type /Pages /Kids [3 0 R 4 0 R] /Count 2 >>",
    ...[5, 6].map(
      (content) =>
        `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 200] /Contents ${content} 0 R >>`,
    ),
    ...drawn.map((stream) => `<< /Length ${stream.length} >>\nstream\n${stream}\nendstream`),
  ];
  let text = "%PDF-1.4\n";
  const places = objects.map((object, i) => {
    const at = text.length;
    text += `${i + 1} 0 obj\n${object}\nendobj\n`;
    return at;
  });
  const table = text.length;
  text += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n`;
  for (const at of places) text += `${String(at).padStart(10, "0")} 00000 n \n`;
  text += `trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${table}\n%%EOF\n`;
  return Buffer.from(text, "latin1");
}
