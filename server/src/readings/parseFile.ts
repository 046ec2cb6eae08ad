import { parseTemperatureFile, type TemperatureFileOptions } from '@wunsch/core/readings';

/** The work of the thread that reads files of temperatures. */
export default function parse({ text, options }: { text: string; options: TemperatureFileOptions }) {
  return parseTemperatureFile(text, options);
}
