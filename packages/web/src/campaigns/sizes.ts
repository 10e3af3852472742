/** Picture sizes that campaigns are made in, in pixels. */
export const PICTURE_SIZES: ReadonlyArray<{ label: string; width: number; height: number }> = [
  { label: 'Wide 16:9, 1920 x 1080', width: 1920, height: 1080 },
  { label: 'Wide 16:9, 1280 x 720', width: 1280, height: 720 },
  { label: 'Wide 16:9, 960 x 540', width: 960, height: 540 },
  { label: 'Tall 9:16, 1080 x 1920', width: 1080, height: 1920 },
  { label: 'Square 1:1, 1080 x 1080', width: 1080, height: 1080 },
  { label: 'Portrait 4:5, 1080 x 1350', width: 1080, height: 1350 },
  { label: 'Wide 16:9, 3840 x 2160', width: 3840, height: 2160 },
];
