import {
  ownTitleValues,
  saidOfTitle,
  TITLE_PROPERTIES,
  type Title,
  type TitlePath,
  type TitleValues,
} from '@tender-orbit/core/document';
import { titleValues } from '@tender-orbit/core/promo';
import { toRaw } from 'vue';
import { useKeyedValues, type KeyedValues } from './use-keyed-values.ts';
import { usePromo } from './use-promo.ts';

/** Values of a title at the playhead. */
export function useTitleValues(title: () => Title): KeyedValues<TitleValues> {
  const { promo, editTitle } = usePromo();
  return useKeyedValues<TitleValues>({
    ...{ thing: () => title().id, noun: 'title', span: title, properties: TITLE_PROPERTIES },
    values: () =>
      promo.value ? titleValues(toRaw(title()), toRaw(promo.value)) : () => ownTitleValues(toRaw(title())),
    plain: (label, values, gesture) => {
      const said = Object.entries(values).map(([path, value]) => saidOfTitle(path as TitlePath, value));
      editTitle(title().id, label, Object.assign({}, ...said) as Partial<Title>, gesture);
    },
  });
}
