import { Killable } from '../testing/killable.ts';

/** Few, at fixed phases; `npm run trials` asks for the many. */
const KILLS = Number(process.env.WUNSCH_KILLS || 3);
/** Workshops killed side by side; each has its share of the kills. */
const WORKSHOPS = KILLS > 10 ? 2 : 1;

test(
  `no acknowledged entry is lost in ${KILLS} kills while writing`,
  async () => {
    const killMany = async () => {
      const workshop = await Killable.make();
      for (let kill = 0; kill < KILLS / WORKSHOPS; kill += 1)
        await workshop.writeAndKill(await workshop.start(), 20 + ((kill * 103) % 250));
      const child = await workshop.start();
      // Every server had answered for something when it was killed.
      expect(workshop.acknowledged.length).toBeGreaterThanOrEqual(KILLS / WORKSHOPS);
      expect(await workshop.lost()).toEqual([]);
      await workshop.end(child, 'SIGKILL');
      await workshop.remove();
    };
    await Promise.all(Array.from({ length: WORKSHOPS }, killMany));
  },
  1_200_000 + KILLS * 20_000,
);
