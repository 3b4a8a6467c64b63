import { colourWord, kindOf, type DesignObject } from '@open-kite/core';

/** What an object is called: as the user named it, else by what it is. */
export function nameOfObject(objects: readonly DesignObject[], object: DesignObject): string {
  return object.name === '' ? nameItself(objects, object) : object.name;
}

/** What an object is called as long as nobody names it. */
export function nameItself(objects: readonly DesignObject[], object: DesignObject): string {
  const base = baseName(objects, object);
  // By their ids, which count up: a number stays with an object wherever it goes in the stack.
  const alike = objects
    .filter((other) => (other.name === '' || other.id === object.id) && baseName(objects, other) === base)
    .sort((a, b) => a.id.localeCompare(b.id, 'en', { numeric: true }));
  return alike.length > 1 ? `${base} ${alike.indexOf(object) + 1}` : base;
}

function baseName(objects: readonly DesignObject[], object: DesignObject): string {
  const kind = kindOf(object).name;
  switch (object.kind) {
    case 'picture':
      return kind;
    case 'shape': {
      if (object.role === 'hole') return 'Hole';
      const { paint } = object;
      const hex = 'hex' in paint ? paint.hex : 'like' in paint ? paint.like.hex : undefined;
      const what = object.paths.every(({ closed }) => !closed) ? 'line' : 'shape';
      return hex === undefined ? kind : `${capital(colourWord(hex))} ${what}`;
    }
    case 'letters': {
      const text = object.text.replace(/\s+/g, ' ').trim();
      return text === '' ? kind : `“${text.length > MOST_TEXT ? `${text.slice(0, MOST_TEXT)}…` : text}”`;
    }
    case 'stitches':
      return kind;
    case 'copies': {
      const [first] = object.of;
      const of = objects.find(({ id }) => id === first);
      return of ? `${kind} of ${of.name === '' ? small(baseName(objects, of)) : of.name}` : kind;
    }
    case 'outline': {
      const own = object.as === 'applique' ? 'Applique' : kind;
      if (object.pieces && object.pieces.length > 0) return `${own} of pieces`;
      if (object.of === null) return object.closeMm === undefined ? `${own} of everything` : 'Border';
      const of = objects.find(({ id }) => id === object.of);
      if (!of) return own;
      // Named by what it is alone: an outline may outline another one.
      const what = of.kind === 'outline' ? kindOf(of).name : baseName(objects, of);
      return `${own} of ${of.name === '' ? small(what) : of.name}`;
    }
  }
}

/** Characters of a text that its name shows. */
const MOST_TEXT = 18;

const capital = (word: string): string => word[0].toUpperCase() + word.slice(1);

/** A name within another one; the letters of a text stay as they are. */
const small = (name: string): string => name[0].toLowerCase() + name.slice(1);
