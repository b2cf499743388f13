import { axeEverywhere } from './axe.ts';

axeEverywhere('tin-night', ['color-contrast', 'link-in-text-block']);
