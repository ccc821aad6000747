/** What is said and asked. */
import type { State } from '@apple-tick/core/model';
import { click, type Recipe } from './recipe.ts';

export const WORDS: readonly Recipe[] = [
  {
    id: 'says',
    name: 'Says in turn',
    begins: true,
    says: (n) => `Each click on ${n} makes it say the next of three sentences, and then the first again.`,
    make: (m) => {
      const { id: object } = m.object;
      const says = (text: string): Partial<State> => ({
        onEntry: [{ do: 'caption', object, text, seconds: 3 }],
      });
      const names = ['quiet', 'first', 'second', 'third'] as const;
      const [quiet, first, second, third] = names;
      m.lane(
        'Says',
        [
          [quiet, 'rest'],
          [first, 'rest', says('Good morning!')],
          [second, 'rest', says('A fine day for it.')],
          [third, 'rest', says('Until tomorrow.')],
        ],
        [
          [quiet, first, click],
          [first, second, click],
          [second, third, click],
          [third, first, click],
        ],
      );
      m.hint(`Talk to ${m.object.name}`);
    },
    shown: {
      seconds: 4,
      acts: [
        [0.2, 'click'],
        [1.4, 'click'],
        [2.6, 'click'],
      ],
    },
  },
  {
    id: 'ask',
    name: 'Asks, and answers',
    says: (n) => `A click on ${n} makes it ask; it says something else for each answer.`,
    make: (m) => {
      const { id: object } = m.object;
      const answers = ['Yes', 'No'].map((text) => ({ id: m.answerId(), text }));
      const say = (text: string) => ({ do: 'caption' as const, object, text, seconds: 2 });
      m.reaction({ event: 'pointer.click' }, [{ ...say('Shall we begin?'), seconds: null, answers }]);
      for (const { id: answer, text } of answers)
        m.reaction({ event: 'caption.answer', object, answer }, [
          say(text === 'Yes' ? 'Here we go!' : 'Another time.'),
        ]);
      m.hint(`Click ${m.object.name}`);
    },
    shown: {
      seconds: 4,
      acts: [
        [0.3, 'click'],
        [1.6, 'answer'],
      ],
    },
  },
];
