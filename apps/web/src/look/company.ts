import { computed, shallowRef, type ComputedRef } from 'vue';
import type { Motion } from '@merry-shadow/core/motion/motion';
import type { PerformerView } from '@merry-shadow/contracts/performer';
import type { TakeView } from '@merry-shadow/contracts/take';
import type { OpenTake } from '../take/open-take';
import { useProduction } from '../stores/production';

/** Somebody else on the stage. */
export interface Companion {
  take: TakeView;
  name: string;
  /** A colour of CSS; null for the figure's own. */
  colour: string | null;
  /** See `OtherPerformer`. */
  madeFrom: string;
}

/** Takes of the same clip that were captured in just the same frames: their motions lie in one world with the open one. */
export function companionsOf(
  own: TakeView,
  takes: readonly TakeView[],
  performers: readonly PerformerView[],
): Companion[] {
  const { captured } = own;
  if (!captured) return [];
  return takes.flatMap((take) => {
    const other = take.captured;
    if (take.id === own.id || other?.fromFrame !== captured.fromFrame || other.untilFrame !== captured.untilFrame)
      return [];
    // A second take of the same performer stands in the same place.
    const { performedBy, slowMotion } = take.settings;
    if (slowMotion !== own.settings.slowMotion || (performedBy !== null && performedBy === own.settings.performedBy))
      return [];
    const performer = performers.find(({ id }) => id === performedBy);
    return [
      {
        take,
        name: performer?.name ?? take.name,
        colour: performer?.colour ?? null,
        // Heights of one tell the scale of all.
        madeFrom: JSON.stringify([other.runId, take.revision, captured.runId, own.settings.height]),
      },
    ];
  });
}

/** Who else can stand on the stage beside the open take's performer, and how they move. */
export function useCompany(open: OpenTake): {
  companions: ComputedRef<Companion[]>;
  moves: (id: string, motion: Motion | null) => void;
  figures: ComputedRef<{ motion: Motion; colour: string | null }[]>;
} {
  const production = useProduction();
  const companions = computed(() => {
    const own = open.take.value;
    return own ? companionsOf(own, production.takesOf(own.clipId), production.performers) : [];
  });
  const motions = shallowRef<ReadonlyMap<string, Motion>>(new Map());
  return {
    companions,
    moves(id, motion) {
      const others = [...motions.value].filter(([other]) => other !== id);
      motions.value = new Map(motion ? [...others, [id, motion]] : others);
    },
    figures: computed(() =>
      companions.value.flatMap(({ take, colour }) => {
        const motion = motions.value.get(take.id);
        return motion ? [{ motion, colour }] : [];
      }),
    ),
  };
}
