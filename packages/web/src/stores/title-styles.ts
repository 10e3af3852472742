import { defineStore } from 'pinia';
import { ref } from 'vue';
import { freshName, namesOf, type TitleStyle } from '@tender-orbit/core/document';
import { api, type KeptTitleStyle } from '../api/index.ts';
import { useNotices } from './notices.ts';

/** Styles of titles that the person keeps, for any promo. */
export const useTitleStyles = defineStore('title-styles', () => {
  const notices = useNotices();
  const styles = ref<KeptTitleStyle[]>([]);

  async function read(): Promise<void> {
    await notices.guard(async () => void (styles.value = await api<KeptTitleStyle[]>('GET', '/title-styles')));
  }
  /** @param style with its size as in a promo 540 pixels high. */
  async function keep(style: TitleStyle, wanted: string): Promise<void> {
    await notices.guard(async () => {
      const name = freshName(namesOf(styles.value), wanted);
      styles.value = [...styles.value, await api<KeptTitleStyle>('POST', '/title-styles', { name, style })];
      notices.done(`"${name}" is kept: it stands in the gallery of every promo.`);
    });
  }
  async function remove({ id }: KeptTitleStyle): Promise<void> {
    await notices.guard(async () => {
      await api('DELETE', `/title-styles/${id}`);
      styles.value = styles.value.filter((s) => s.id !== id);
    });
  }
  return { styles, read, keep, remove };
});
