/** Hands a file to the browser to be kept, named after a project. */
export function saveFile(content: Blob, name: string, ending: string): void {
  const plain = name
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .toLowerCase();
  const address = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = address;
  link.download = `${plain || 'design'}.${ending}`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 10000);
}
