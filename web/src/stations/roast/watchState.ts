/** What a watched roast asks for: its alarms' codes as one word, and their texts. */
export interface WatchState {
  codes: string;
  texts: string[];
}
