export * from './make-track.ts';
export { ENERGIES, formOf, type Bar, type Energy } from './form.ts';
export { leadVoices, MOODS, moodOf, scaleNote, triad, type MoodName } from './harmony.ts';
