import { create } from 'zustand';

/** Which chapter of the guide is open over the room; null for none. */
export const useHelp = create<{ chapter: string | null }>(() => ({ chapter: null }));

export const openGuide = (chapter: string): void => useHelp.setState({ chapter });
export const closeGuide = (): void => useHelp.setState({ chapter: null });
