import { axeEverywhere } from './axe.ts';

axeEverywhere('tin');
