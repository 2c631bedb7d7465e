/** Another tab has taken the project: this one may not write it any more. */
export class TakenOver extends Error {
  constructor() {
    super('the project was taken over by another tab');
    this.name = 'TakenOver';
  }
}
