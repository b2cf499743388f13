import { bestOrder } from '../../core/changer/switching.ts';
import type { SwitchAsk, SwitchNews } from './switch-news.ts';

self.onmessage = ({ data: { jobs, room } }: MessageEvent<SwitchAsk>) => {
  const say = (news: SwitchNews) => self.postMessage(news);
  const answer = bestOrder(jobs, room, (share, best) => say({ kind: 'progress', share, best }));
  say({ kind: 'done', answer });
};
