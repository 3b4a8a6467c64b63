import { SaxesParser } from 'saxes';
import { UserError } from '../user-error.js';

const MOST_ELEMENTS = 200_000;
const MOST_DEPTH = 200;
const FORBIDDEN = new Set(['script', 'foreignobject', 'iframe', 'object', 'embed', 'audio', 'video']);

const refuse = (why: string): never => {
  throw new UserError(422, `not a picture that can be read (SVG: ${why})`);
};

/**
 * Refuses vector artwork that would run code or fetch something from elsewhere.
 * @throws UserError 422 that names what was found.
 */
export function checkSvg(text: string): void {
  const parser = new SaxesParser();
  let elements = 0;
  let depth = 0;
  let root = '';
  parser.on('error', (error) => refuse(`it is not well formed: ${error.message.replace(/^\d+:\d+: /, '')}`));
  parser.on('doctype', (text) => {
    if (/entity/i.test(text)) refuse('it defines entities');
  });
  parser.on('opentag', (tag) => {
    const name = (tag.name.split(':').pop() as string).toLowerCase();
    root ||= name;
    depth++;
    if (++elements > MOST_ELEMENTS) refuse(`more than ${MOST_ELEMENTS} elements`);
    if (depth > MOST_DEPTH) refuse(`more than ${MOST_DEPTH} levels of groups`);
    if (FORBIDDEN.has(name)) refuse(`it holds a <${name}>, which pictures must not`);
    for (const [attribute, value] of Object.entries(tag.attributes)) checkAttribute(attribute, String(value));
  });
  let style = false;
  parser.on('opentagstart', (tag) => (style = tag.name.toLowerCase().endsWith('style')));
  parser.on('text', (text) => style && checkStyle(text));
  parser.on('cdata', (text) => style && checkStyle(text));
  parser.on('closetag', () => {
    depth--;
    style = false;
  });
  parser.write(text).close();
  if (root !== 'svg') refuse('its outermost element is not <svg>');
}

function checkAttribute(attribute: string, value: string): void {
  const name = attribute.toLowerCase();
  if (name.startsWith('on')) refuse(`it carries the script ${attribute}="…"`);
  if (name === 'href' || name.endsWith(':href')) {
    const local = value.startsWith('#') || /^data:image\/(png|jpeg|gif|webp);base64,/i.test(value);
    if (!local) refuse(`it refers to "${value.slice(0, 60)}" outside the file`);
  }
  if (!name.startsWith('xmlns')) checkStyle(value);
}

function checkStyle(text: string): void {
  if (/@import/i.test(text)) refuse('its style imports another file');
  const url = /url\(\s*['"]?\s*(?!#|data:)([^)'"]*)/i.exec(text);
  if (url) refuse(`it refers to "${url[1]?.slice(0, 60)}" outside the file`);
}
