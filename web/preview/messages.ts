// What the application and a preview frame say to each other.

export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface ShownCase {
  key: string;
  props: Record<string, unknown>;
  /** States it is shown in, though nobody brings them about. */
  states?: string[];
  /** What its behaviour keeps while it is held in a state. */
  values?: Record<string, unknown>;
  /** It does what it does by itself: nothing holds it in a state. */
  live?: boolean;
  /** Where its container stands in the frame, px. */
  x: number;
  y: number;
  /** Width of its container; without one it is as wide as its content. */
  width?: number;
  /** Its container is a block, as a page is; else it is as wide as it is by itself. */
  block?: boolean;
  /** The theme it is shown in, and the attributes that put it there. */
  theme?: string;
  attributes?: Record<string, string>;
  /** Child indexes from the root to each part. */
  paths: Record<string, number[]>;
}

export interface Show {
  kind: "show";
  cases: ShownCase[];
  /** CSS properties to measure. */
  measure: string[];
  /** What the first case is laid over, pixel by pixel. */
  against?: Against;
  /** Percent of the size of text that a reader asks for; 100 without. */
  text?: number;
  /** A press points at a part, and does nothing else. */
  point?: boolean;
  /** It is a page: it fills the frame, and scrolls in it. */
  page?: boolean;
  /** What is measured says what is seen of its words, and not all that it holds. */
  seen?: boolean;
  /** A picture of so much of the frame, px, is answered. */
  paint?: { width: number; height: number };
}

/** A picture of what runs: so many pixels a px, RGBA. */
export interface Painted {
  kind: "painted";
  sharp: number;
  width: number;
  height: number;
  data: ArrayBuffer;
}

/** Another build of the component, by its page's address, in the place of the one that runs. */
export interface Load {
  /** "prepare" fetches it only: it will be asked for soon. */
  kind: "load" | "prepare";
  src: string;
  /** What is shown as soon as it runs. */
  show?: Show;
}

/** Scrolls a page to a place, px from its top. */
export interface Scroll {
  kind: "scroll";
  top: number;
}

/** A page was scrolled by whoever looks at it; how far it can be. */
export interface Scrolled {
  kind: "scrolled";
  top: number;
  most: number;
}

/** A drawing, with its origin at x, y of a frame of a size. */
export interface Against {
  case: string;
  svg: string;
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface Compared {
  kind: "compared";
  case: string;
  /** How many differ, of the page's px. */
  pixels: number;
  /** The mask: 1 where one differs, so many a px; its size. */
  sharp: number;
  width: number;
  height: number;
  mask: ArrayBuffer;
}

/** What an element is in the accessibility tree (WAI-ARIA 1.2). */
export interface Access {
  /** Nothing in particular when empty. */
  role: string;
  name?: string;
  level?: number;
}

export interface MeasuredPart {
  part: string;
  box: Box;
  text: string;
  style: Record<string, string>;
  access: Access;
  /** Of the outermost element of a component that is used, what it was given, by prop. */
  given?: Record<string, string>;
}

export interface MeasuredCase {
  case: string;
  theme?: string;
  parts: MeasuredPart[];
}

export interface Failed {
  kind: "failed";
  message: string;
  stack?: string;
  file?: string;
  line?: number;
  column?: number;
}

/** Something happened to a case that does what it does by itself, as its behaviour calls it, ms after it began; whether anything followed of it. */
export interface Heard {
  kind: "heard";
  case: string;
  event: string;
  value?: number;
  followed: boolean;
  at: number;
}

/** A part was pointed at: it, and those around it, the innermost first. */
export interface Pointed {
  kind: "pointed";
  case: string;
  parts: string[];
}

/** The frame hears: what runs in it may still be loading. */
export interface Alive {
  kind: "alive";
}

/** A build runs: the page's own, or the one that was loaded last. */
export interface Ready {
  kind: "ready";
  src?: string;
}

/** What a frame answers to what it is told to show, and of which build, where that is not its page's own. */
export type Answered = ({ kind: "measured"; cases: MeasuredCase[] } | Compared | Painted) & { of?: string };

export type FromFrame = Alive | Ready | Answered | Failed | Heard | Pointed | Scrolled;
