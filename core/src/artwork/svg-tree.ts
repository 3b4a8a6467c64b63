import { SaxesParser } from 'saxes';

/** An element of an SVG file. */
export interface SvgElement {
  /** Name without its namespace prefix. */
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: SvgElement[];
  readonly parent?: SvgElement;
  /** Text directly inside. */
  text: string;
}

const MOST_CHARACTERS = 24_000_000;
const MOST_ELEMENTS = 100_000;
const MOST_DEPTH = 120;

/**
 * Reads an SVG file into elements. Of entities only short plain texts are taken, as drawing programs write them for
 * their namespaces; nothing is fetched.
 * @throws RangeError that says what is wrong with the file
 */
export function readSvgTree(text: string): SvgElement {
  if (text.length > MOST_CHARACTERS) throw new RangeError(`SVG: more than ${MOST_CHARACTERS / 1e6} million characters`);
  let root: SvgElement | undefined;
  let at: SvgElement | undefined;
  let depth = 0;
  let elements = 0;
  const parser = new SaxesParser();
  parser.on('doctype', (doctype) => Object.assign(parser.ENTITIES, entitiesOf(doctype)));
  parser.on('error', (error) => {
    throw new RangeError(`SVG: it is not well formed: ${error.message.replace(/^\d+:\d+: /, '')}`);
  });
  parser.on('opentag', (tag) => {
    if (++elements > MOST_ELEMENTS) throw new RangeError(`SVG: more than ${MOST_ELEMENTS} elements`);
    if (++depth > MOST_DEPTH) throw new RangeError(`SVG: more than ${MOST_DEPTH} levels of groups`);
    const attributes: Record<string, string> = {};
    for (const [name, value] of Object.entries(tag.attributes)) attributes[localName(name)] = String(value);
    const element: SvgElement = { name: localName(tag.name), attributes, children: [], parent: at, text: '' };
    if (at) at.children.push(element);
    else root ??= element;
    at = element;
  });
  parser.on('closetag', () => {
    depth--;
    at = at?.parent;
  });
  const addText = (content: string): void => {
    if (at) at.text += content;
  };
  parser.on('text', addText);
  parser.on('cdata', addText);
  parser.write(text.replace(/^\uFEFF/, '')).close();
  if (root?.name !== 'svg') throw new RangeError('SVG: its outermost element is not <svg>');
  return root;
}

const MOST_ENTITIES = 100;
const LONGEST_ENTITY = 300;

/**
 * Entities that a document type defines as short plain texts.
 * @throws RangeError for any other: those that hold others grow without end, and those elsewhere would have to be fetched
 */
export function entitiesOf(doctype: string): Record<string, string> {
  const out: Record<string, string> = {};
  const declared = doctype.split(/<!ENTITY/i).slice(1);
  if (declared.length > MOST_ENTITIES) throw new RangeError(`SVG: it defines more than ${MOST_ENTITIES} entities`);
  for (const text of declared) {
    const found = /^\s+([\w.-]{1,60})\s+(?:"([^"<&%]*)"|'([^'<&%]*)')\s*>/.exec(text.slice(0, LONGEST_ENTITY * 2));
    const value = found?.[2] ?? found?.[3];
    if (!found || value === undefined || value.length > LONGEST_ENTITY) {
      throw new RangeError('SVG: it defines entities that are not short plain texts');
    }
    if (!Object.hasOwn(PREDEFINED, found[1])) out[found[1]] = value;
  }
  return out;
}

const PREDEFINED = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };

const localName = (name: string): string => name.slice(name.indexOf(':') + 1);

/** Every element by its id; of several with one id the first. */
export function elementsById(root: SvgElement): Map<string, SvgElement> {
  const found = new Map<string, SvgElement>();
  const visit = (element: SvgElement): void => {
    const { id } = element.attributes;
    if (id && !found.has(id)) found.set(id, element);
    element.children.forEach(visit);
  };
  visit(root);
  return found;
}
