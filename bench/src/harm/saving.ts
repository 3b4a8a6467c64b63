import { defaultRecipe, type Recipe } from '@open-kite/core';
import { askJson, type Answer } from './server.js';

/** As much as a day's change of a large design. */
const LARGE = { op: 'replace', path: ['cloth', 'hex'], value: '#c04020 '.repeat(1000) } as const;

/** Somebody who works on one project, and remembers what the server said was kept. */
export class Saver {
  private id = '';
  private revision = 0;
  /** The last text that was acknowledged, and the one that was on its way when the line broke. */
  acknowledged = '';
  private onTheWay = '';
  private saves = 0;

  constructor(private readonly name: string) {}

  /** Makes its project where it has none, else saves it once more. */
  async work(address: URL): Promise<Answer> {
    this.onTheWay = `${this.name} ${++this.saves}`;
    const recipe: Recipe = { ...defaultRecipe(1, 1), objects: [] };
    if (this.id === '') {
      const answer = await askJson(address, 'POST', '/api/projects', { name: this.onTheWay, picture: null, recipe });
      if (answer.status === 201) {
        const made = JSON.parse(answer.text) as { id: string; revision: number };
        [this.id, this.revision, this.acknowledged] = [made.id, made.revision, this.onTheWay];
      }
      return answer;
    }
    const body = {
      name: this.onTheWay,
      revision: this.revision,
      recipe,
      keep: 0,
      entries: [{ label: this.onTheWay, patches: [LARGE], inverse: [LARGE] }],
      position: 1,
      base: 0,
    };
    const answer = await askJson(address, 'PUT', `/api/projects/${this.id}`, body);
    if (answer.status === 200) {
      this.revision = (JSON.parse(answer.text) as { revision: number }).revision;
      this.acknowledged = this.onTheWay;
    }
    return answer;
  }

  /** Whether a server has what it acknowledged, or what it was just being sent; its word is taken from then on. */
  async isKept(address: URL): Promise<boolean> {
    if (this.id === '') return true;
    const answer = await askJson(address, 'GET', `/api/projects/${this.id}`);
    if (answer.status !== 200) {
      console.log(`  ${this.acknowledged}: ${answer.status} ${answer.text.slice(0, 200)}`);
      return false;
    }
    const { name, revision } = JSON.parse(answer.text) as { name: string; revision: number };
    const kept = name === this.acknowledged || name === this.onTheWay;
    if (!kept) console.log(`  ${name} is there, ${this.acknowledged} was acknowledged, ${this.onTheWay} on its way`);
    // What arrived although nobody heard of it is what must be there from now on.
    [this.revision, this.acknowledged] = [revision, name];
    return kept;
  }
}
