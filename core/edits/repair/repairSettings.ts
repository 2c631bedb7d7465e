/** What a repair puts in the place of what must go. */
export interface RepairSettings {
  /** the real pixels of another frame of the set, pieces from around it, or smooth light from its edge to its edge */
  readonly from: 'frame' | 'around' | 'smooth';
  /** id of the frame; empty text for none */
  readonly frame: string;
  /** which of several ways of filling from around */
  readonly seed: number;
  /** id of the named region that pieces are taken from; empty text for anywhere near */
  readonly within: string;
  /** chosen by hand; else Marsh chooses again whenever what must go has changed */
  readonly chosen: boolean;
}
