/** A few words for the margin of a page. */
export interface PlainNote {
  /** Whether it is good news, or wants to be looked at. */
  tone: 'good' | 'attention' | 'plain';
  /** What was seen. */
  title: string;
  /** Why it matters, and what to do. */
  text: string;
}
