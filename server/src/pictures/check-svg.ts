import { entitiesOf } from '@open-kite/core';
import { SaxesParser } from 'saxes';
import { UserError } from '../user-error.js';

const MOST_ELEMENTS = 200_000;
const MOST_DEPTH = 200;
const FORBIDDEN = new Set(['script', 'foreignobject', 'iframe', 'object', 'embed', 'audio', 'video']);

/** So much of a reference is looked at; blanks before it are none of it. */
const LONGEST_TARGET = 400;

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
  parser.on('doctype', (doctype) => {
    try {
      Object.assign(parser.ENTITIES, entitiesOf(doctype));
    } catch (error) {
      refuse((error as Error).message.replace(/^SVG: /, ''));
    }
  });
  parser.on('opentag', (tag) => {
    const name = (tag.name.split(':').pop() as string).toLowerCase();
    root ||= name;
    depth++;
    if (++elements > MOST_ELEMENTS) refuse(`more than ${MOST_ELEMENTS} elements`);
    if (depth > MOST_DEPTH) refuse(`more than ${MOST_DEPTH} levels of groups`);
    if (FORBIDDEN.has(name)) refuse(`it holds a <${name}>, which pictures must not`);
    for (const [attribute, value] of Object.entries(tag.attributes)) checkAttribute(name, attribute, String(value));
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

function checkAttribute(element: string, attribute: string, value: string): void {
  const name = attribute.toLowerCase();
  if (name.startsWith('on')) refuse(`it carries the script ${attribute}="…"`);
  if (name === 'href' || name.endsWith(':href')) {
    // A link is where a click would lead; nothing follows it here.
    const link = element === 'a' && !/^\s*(?:javascript|data):/i.test(value);
    const local = link || value.trim().startsWith('#') || /^data:image\/(png|jpeg|gif|webp);base64,/i.test(value);
    if (!local) refuse(`it refers to "${value.slice(0, 60)}" outside the file`);
  }
  if (!name.startsWith('xmlns')) checkStyle(value);
}

function checkStyle(text: string): void {
  if (/@import/i.test(text)) refuse('its style imports another file');
  const lower = text.toLowerCase();
  for (let at = lower.indexOf('url('); at >= 0; at = lower.indexOf('url(', at + 4)) {
    const target = text.slice(at + 4, at + 4 + LONGEST_TARGET).replace(/^[\s'"]+/, '');
    if (!/^(?:#|data:)/i.test(target))
      refuse(`it refers to "${target.split(/[)'"]/)[0]?.slice(0, 60)}" outside the file`);
  }
}
