import { computed, shallowRef, type ComputedRef, type Ref } from 'vue';
import { nanoid } from 'nanoid';
import { LayerRecord } from '@merry-shadow/core/edits/kinds/layer-record';

/** Seconds over which the frames about a told one follow it: about as long as the solve lets it count. */
const FOLLOWS = 0.4;

/**
 * What stands in for the solve until the take is solved with what a person told: a layer over the motion that there is, which no one keeps.
 */
export interface CoarseStep {
  /** What is shown now; null once the take is solved with it, or where nothing was told. */
  layer: ComputedRef<LayerRecord | null>;
  /** The layer that the next told thing is shown by. @param rate frames a second. */
  next: (rate: number) => LayerRecord;
  /** Shows a layer until the take is solved with what was told last. */
  keep: (layer: LayerRecord) => void;
}

/** @param wanted what the take shall be solved from now, @param solvedFrom what the shown motion was solved from. */
export function useCoarseStep(wanted: Ref<string>, solvedFrom: Ref<string>): CoarseStep {
  const kept = shallowRef<{ layer: LayerRecord; wanted: string } | null>(null);
  const layer = computed(() =>
    kept.value?.wanted === wanted.value && solvedFrom.value !== wanted.value ? kept.value.layer : null,
  );
  return {
    layer,
    next: (rate) =>
      layer.value ??
      LayerRecord.parse({
        kind: 'layer',
        id: nanoid(10),
        name: 'Until it is solved',
        ease: Math.round(FOLLOWS * rate),
      }),
    keep: (shown) => (kept.value = { layer: shown, wanted: wanted.value }),
  };
}
