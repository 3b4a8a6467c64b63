import { fileStem } from '@open-kite/contract';

/** Hands a file to the browser to be kept, named after a project. */
export function saveFile(content: Blob, name: string, ending: string): void {
  const address = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = address;
  link.download = `${fileStem(name)}.${ending}`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 10000);
}
