/** Version of the program, put in by the build. */
declare const PROGRAM_VERSION: string;
