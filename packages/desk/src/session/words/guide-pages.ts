/** The guide: a short page for each task, with a piece that shows it. Names of controls stand in brackets. */

export interface Page {
  /** Its address below `/guide`. */
  readonly id: string;
  readonly title: string;
  /** Words of those who look for it. */
  readonly find: string;
  readonly text: readonly string[];
  /** The starter that runs beside it, and what is chosen in it by whoever tries it. */
  readonly starter: string;
  readonly choose: string;
}

export const GUIDE: readonly Page[] = [
  {
    id: 'draw',
    title: 'Draw a thing, and place it',
    find: 'shape rectangle ellipse text box new start begin size',
    text: [
      'An empty piece shows the shapes: take one and drag in the frame. Letters typed right after drawing are its name. The same shapes stand over the view, and each has a letter of its own.',
      'Drag a thing to place it. [Turn], [Size] and [Scale] over the view say what a drag does instead; numbers stand in the properties on the right, and each can be dragged or typed.',
      'What lies in a group moves with it: choose several with Shift and press Ctrl J to join them under one root.',
    ],
    starter: 'crate-lid-that-lifts-under-the-pointer',
    choose: 'Lid',
  },
  {
    id: 'bring-in',
    title: 'Bring in a drawing, picture, model or sound',
    find: 'import svg png glb gltf wav mp3 file drop paste upload replace newer version update watch reload',
    text: [
      'Drop a file into the piece, or press Ctrl K and take [Bring in a picture, model or sound…]. What cannot be read is said in a sentence, with its place, and nothing else is touched.',
      'The parts of a drawing keep their names and lie in a tree on the left. What should turn needs its pivot where it hangs: press [Pivot] and drag it.',
      'Drawn on elsewhere, drop the newer file on the drawing: what differs is shown beside what is there, and keys, pivots and what you changed here stay. Under [File] its drawing can be replaced too, or watched while you draw.',
    ],
    starter: 'rig-of-several-parts',
    choose: 'Head',
  },
  {
    id: 'animate',
    title: 'Let it move',
    find: 'animate keyframe key clip timeline motion pose record',
    text: [
      'Choose a thing and press [Animate]: a motion is open below. Move or turn the thing: its end is keyed where the playhead stands, its beginning as it was.',
      'In the timeline, drag a key to change when; press [Play] to see it. [Ghosts] over the view show the poses round the playhead.',
      '[Fold], or Escape, closes it. The motion is now the state of a machine: a panel in the lanes.',
    ],
    starter: 'hinge-that-turns-back',
    choose: 'Flap',
  },
  {
    id: 'when',
    title: 'Say when it moves',
    find: 'trigger event transition wire start click state machine',
    text: [
      'Over the open motion stands “from at rest: when?”, or press H. Take what sets it off: a click, the pointer, a key, the start, something that comes near, a switch.',
      'Above it is said whether it [stays there], goes [and back again], turning round wherever it is, or [and softly back].',
      'The ways stand as arcs between the panels. Drag from the edge of one panel to another to make a way; click one to change what it waits for.',
    ],
    starter: 'gate-that-opens-as-one-comes-near',
    choose: 'Gate',
  },
  {
    id: 'states',
    title: 'Several states, and the ways between them',
    find: 'state machine fsm states transitions condition crossfade blend lane',
    text: [
      '[Add ▾] at the head of a lane makes a state; [States, written in a line…] makes many at once: “shut > opening > open” is three states and two ways.',
      'A way may wait for an event, ask conditions, come [Not before] some time, and take its time to fade: [Crossfade].',
      'A thing may have several lanes: they run beside each other, and what two of them move is worked out from above.',
    ],
    starter: 'lamp-that-is-clicked-on-and-off',
    choose: 'Lamp',
  },
  {
    id: 'recipes',
    title: 'Begin with a recipe',
    find: 'ready made preset behaviour template quick fast',
    text: [
      'A thing that does nothing yet shows recipes below, each as a moving picture; later they stand under [recipes] beside its reactions.',
      'A recipe reads what is there: the pivot, the place, who walks. It makes ordinary records, which can be changed like any others, and is one step to undo.',
    ],
    starter: 'knob-that-is-pulled-and-springs-back',
    choose: 'Knob',
  },
  {
    id: 'easing',
    title: 'How it speeds up and slows down',
    find: 'easing curve ease in out bounce spring elastic linear',
    text: [
      'Click a key in the timeline: the properties show the easings as pictures of their course. Take one, or pull its handles.',
      'Several keys chosen with Shift take an easing together.',
    ],
    starter: 'three-easings-compared',
    choose: 'Board',
  },
  {
    id: 'react',
    title: 'Answer a click or a key',
    find: 'reaction click key press button event action do effect sound',
    text: [
      'In the properties, [Add a reaction] makes a sentence: when something happens, do something. Its words are lists and fields.',
      'It may do several things, each after a while of its own; [only if, how often] asks conditions, a limit, a rest.',
      'A reaction with the focus is copied, pasted and duplicated like anything else.',
    ],
    starter: 'anvil-that-sends-sparks',
    choose: 'Anvil',
  },
  {
    id: 'signals',
    title: 'Numbers and switches that others go by',
    find: 'variable signal number switch value bind follow gauge health score',
    text: [
      '[Add a signal] on the left makes a switch, a number, a choice, a text or a pulse. Reactions set it, conditions ask it, and in a run it can be set by hand on the right.',
      '[Add what it follows] in the properties lets a size, a place, a text go by a number, as far and as softly as the sentence says.',
    ],
    starter: 'glass-that-fills-by-a-number',
    choose: 'Cider',
  },
  {
    id: 'pointer',
    title: 'Follow the pointer',
    find: 'mouse cursor eyes look at track hover aim',
    text: [
      'Under [Follows] let a turn or a place follow [the pointer]: from where to where stands in the sentence, and from which thing it is counted.',
      'The place in a motion can go by the pointer, too: in the state, [Goes by] something else than time.',
    ],
    starter: 'eyes-that-follow-the-pointer',
    choose: 'Pupil',
  },
  {
    id: 'odds',
    title: 'Leave it to chance',
    find: 'random odds dice draw probability pick weighted',
    text: [
      'A way that is drawn by odds is taken by lot among those that may go: choose it and set [Odds]. Unless it may come twice in a row, the same is not drawn again.',
      'A value may be drawn as well: in a sentence, the list beside a number offers one of several, or between two.',
      'A run with the same seed draws the same.',
    ],
    starter: 'apple-drawn-by-odds',
    choose: 'Fruit',
  },
  {
    id: 'looks',
    title: 'Several drawings of one thing',
    find: 'look sprite swap costume frame picture change mouth',
    text: [
      'Under [Looks] a thing may have several drawings. Put one on and change its size, fill and stroke: it changes that look alone.',
      'A motion keys the look like any property; a reaction may put one on.',
    ],
    starter: 'fade-and-swap-a-look',
    choose: 'Words',
  },
  {
    id: 'masks',
    title: 'Show it only inside something',
    find: 'mask clip window reveal hide inside outside',
    text: [
      'Under [Mask] take what a thing is shown inside of, or outside of. The window can move, and need not be seen itself.',
      '[Masks] over the view shows what is cut away.',
    ],
    starter: 'masked-riser',
    choose: 'Cider',
  },
  {
    id: 'near',
    title: 'Notice what comes near, or in',
    find: 'zone collider trigger near enter leave sensor area tag hit',
    text: [
      '[Add a zone] in the properties offers [Notice what is in it], a box that can be made a ball or any outline, and [Notice what comes near], two circles. In the view both can be dragged.',
      'A zone notices what has one of its tags, and the visitor if it is so set. Reactions and ways hear what comes in and what goes; conditions ask what is in it.',
    ],
    starter: 'lamp-that-is-lit-while-one-is-near',
    choose: 'Glass',
  },
  {
    id: 'visitor',
    title: 'Somebody who walks, and what stops them',
    find: 'player character walk arrow keys wall block collision visitor',
    text: [
      'The visitor is the person who looks on, as a figure: press [let the person walk …] at a thing, or add one by Ctrl K. In a run the arrow keys walk it.',
      '[Block what comes] among the zones makes what nothing walks through; one that moves pushes what stands in its way.',
    ],
    starter: 'walk-among-blockers',
    choose: 'Long hedge',
  },
  {
    id: 'drag',
    title: 'Drag it, and drop it in its place',
    find: 'drag drop pull knob slider puzzle',
    text: [
      'Under [Drag] a thing can be let to be dragged: along which way, how far, and what happens as it is let go.',
      'A zone hears that a thing with its tag was dropped into it.',
    ],
    starter: 'shapes-that-are-dropped-into-their-places',
    choose: 'Apple',
  },
  {
    id: 'captions',
    title: 'Let it speak, and ask',
    find: 'caption speech bubble text dialogue question answer talk',
    text: [
      'The action “show a caption” puts words over a thing, for some seconds or until something else is said.',
      'With answers it stays until one is taken; a reaction hears which.',
    ],
    starter: 'bell-that-asks-and-is-answered',
    choose: 'Bell',
  },
  {
    id: 'scenes',
    title: 'Tell a scene in order',
    find: 'cue sheet sequence cutscene story script order timeline dialogue',
    text: [
      'In the tab [Cue sheets] a scene is written line by line: [write on], a line, Enter. “Ada: Good morning” is said by Ada; an empty line is a cue that does something else.',
      'What hangs below a cue follows it, at its beginning or at its end. [Try from 0.0 s] runs the scene by itself.',
      'From a thing that has motions, [Make a scene of what it does, in order] does what it says.',
    ],
    starter: 'evening-told-by-cues',
    choose: 'Mill',
  },
  {
    id: 'templates',
    title: 'The same thing many times',
    find: 'template instance copy prefab spawn many reuse symbol component',
    text: [
      'Press M to make a template of what is chosen; [Place another] puts one beside it. [Open in place] changes the drawing and what it does, in all of them.',
      'A signal of the template may have a value of its own in each. Reactions spawn templates, too: sparks, coins, drops that come and go.',
    ],
    starter: 'one-crate-many-times',
    choose: 'Crate 3',
  },
  {
    id: 'run',
    title: 'Run it, see why, hand it over',
    find: 'play test debug log why cause export share file publish',
    text: [
      '[Run] makes the frame live. What happened is listed, newest first; the arrow at the end of a line is its cause, and a click leads there. [Pause] and [One tick] stop the time.',
      'While it runs, everything can be changed, and goes on changed. [Only this] runs one thing alone.',
      '[Hand over…] at the top gives the piece away as a file that holds all of it.',
    ],
    starter: 'apples-that-fall-and-are-counted',
    choose: 'Basket',
  },
];
