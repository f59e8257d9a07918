import Sortable from 'sortablejs';
import { onUnmounted, watch, type Ref } from 'vue';

/** Lets the items of a list be dragged by their grips (class `grip`). @param move told where an item was taken and put, counted among the list's elements. */
export function useSorted(list: Ref<HTMLElement | undefined>, move: (from: number, to: number) => void): void {
  let sortable: Sortable | undefined;
  watch(
    list,
    (element) => {
      sortable?.destroy();
      sortable =
        element &&
        Sortable.create(element, {
          handle: '.grip',
          // By pointer alone: the browser's own dragging does not begin on a button everywhere.
          forceFallback: true,
          fallbackTolerance: 3,
          animation: matchMedia('(prefers-reduced-motion: reduce)').matches ? 0 : 120,
          onEnd: ({ oldIndex = 0, newIndex = 0, item }) => {
            // The list itself brings its elements into order.
            element.insertBefore(item, element.children[newIndex > oldIndex ? oldIndex : oldIndex + 1] ?? null);
            move(oldIndex, newIndex);
          },
        });
    },
    { flush: 'post' },
  );
  onUnmounted(() => sortable?.destroy());
}
