import { cuesIn, type KeyId } from '@apple-tick/core/model';
import { EffectDetails } from '../../features/effects/Details.tsx';
import { SheetCueDetails } from '../../features/sheets/Details.tsx';
import { SoundDetails } from '../../features/sounds/Details.tsx';
import { TemplateDetails } from '../../features/templates/Details.tsx';
import { useSession, useUi, useVersion } from '../../session/hooks.ts';
import { chosenKeys } from '../../session/motion/keys.ts';
import { Refused } from '../../ui/Refused.tsx';
import { CueDetails } from './CueDetails.tsx';
import { FurtherDown } from './FurtherDown.tsx';
import { KeyDetails } from './KeyDetails.tsx';
import { ManyDetails } from './ManyDetails.tsx';
import { ObjectDetails } from './ObjectDetails.tsx';
import { PieceDetails } from './PieceDetails.tsx';
import { MessageDetails, SignalDetails } from './SignalDetails.tsx';
import { StateDetails } from './StateDetails.tsx';
import { TransitionDetails } from './TransitionDetails.tsx';

/** The properties of whatever is selected. Each thing has fields of its own: what is typed never reaches another. */
export function Details() {
  const selected = useUi((u) => u.selected);
  const also = useUi((u) => u.also);
  const refused = useUi((u) => u.refused);
  return (
    <>
      {refused?.where === 'fields' && (
        <div className="p-2">
          <Refused words={refused.words} />
        </div>
      )}
      <Shown key={JSON.stringify([selected?.kind === 'keys' ? keyed(selected) : selected, also])} />
      <FurtherDown />
    </>
  );
}

/** Keys as what they are of: while they are moved, their fields stay the same ones. */
function keyed(sel: { clip: string; keys: readonly KeyId[] }): unknown {
  return [sel.clip, sel.keys.length, sel.keys[0]?.object, sel.keys[0]?.property];
}

/** What is gone meanwhile (undone, deleted elsewhere) is not selected: then the piece itself is shown. */
function Shown() {
  useVersion();
  const s = useSession();
  const { selected } = s;
  if (!selected) {
    // Within a template what is worked on as a whole is that.
    const template = s.store.get('templates', s.store.scope ?? '');
    return template ? <TemplateDetails template={template} /> : <PieceDetails />;
  }
  switch (selected.kind) {
    case 'object': {
      const many = s.chosen.flatMap((id) => s.store.get('objects', id) ?? []);
      if (many.length > 1) return <ManyDetails objects={many} />;
      const o = s.store.get('objects', selected.id);
      return o ? <ObjectDetails object={o} /> : null;
    }
    case 'keys': {
      const chosen = chosenKeys(s);
      return chosen && <KeyDetails {...chosen} />;
    }
    case 'cue': {
      const clip = s.store.get('clips', selected.clip);
      const cue = clip?.cues.find((q) => q.id === selected.id);
      return clip && cue ? <CueDetails clip={clip} cue={cue} /> : null;
    }
    case 'signal': {
      const signal = s.store.get('signals', selected.id);
      return signal ? <SignalDetails signal={signal} /> : null;
    }
    case 'sound': {
      const sound = s.store.get('sounds', selected.id);
      return sound ? <SoundDetails sound={sound} /> : null;
    }
    case 'sheetCue': {
      const sheet = s.store.get('cueSheets', selected.sheet);
      const cue = sheet && cuesIn(sheet).find((c) => c.id === selected.id);
      return sheet && cue ? <SheetCueDetails sheet={sheet} cue={cue} /> : null;
    }
    case 'effect': {
      const effect = s.store.get('effects', selected.id);
      return effect ? <EffectDetails effect={effect} /> : null;
    }
    case 'template': {
      const template = s.store.get('templates', selected.id);
      return template ? <TemplateDetails template={template} /> : null;
    }
    case 'message': {
      const message = s.store.get('messages', selected.id);
      return message ? <MessageDetails message={message} /> : null;
    }
  }
  const machine = s.store.get('machines', selected.machine);
  const lane = machine?.lanes.find((l) => l.id === selected.lane);
  if (!machine || !lane) return null;
  if (selected.kind === 'state') {
    const state = lane.states.find((x) => x.id === selected.id);
    return state ? <StateDetails machine={machine} lane={lane} state={state} /> : null;
  }
  const transition = lane.transitions.find((x) => x.id === selected.id);
  return transition ? <TransitionDetails machine={machine} lane={lane} transition={transition} /> : null;
}
