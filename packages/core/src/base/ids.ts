/** Ids: two letters for the kind of record, an underscore, then base-36 digits: `ob_x7k2`. They never change. */
const ID_PREFIX = {
  objects: 'ob',
  tags: 'ta',
  clips: 'cl',
  signals: 'si',
  messages: 'me',
  machines: 'ma',
  lanes: 'la',
  states: 'st',
  transitions: 'tr',
  reactions: 're',
  follows: 'fo',
  sounds: 'so',
  colliders: 'co',
  effects: 'ef',
  cueSheets: 'sh',
  templates: 'te',
  answers: 'an',
  cues: 'cu',
  looks: 'lo',
  assets: 'as',
} as const;

export type IdKind = keyof typeof ID_PREFIX;

/** A new id of this kind that `taken` does not know. `random` yields numbers in [0, 1). */
export function newId(kind: IdKind, taken: (id: string) => boolean, random: () => number): string {
  for (let length = 4; ; length++) {
    for (let attempt = 0; attempt < 8; attempt++) {
      let id = `${ID_PREFIX[kind]}_`;
      for (let i = 0; i < length; i++) id += Math.floor(random() * 36).toString(36);
      if (!taken(id)) return id;
    }
  }
}
