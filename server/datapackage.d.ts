/** What the tests use of the validator for data packages, which has no types of its own. */
declare module 'datapackage' {
  export interface Resource {
    name: string;
    tabular: boolean;
    read(options: { keyed: boolean; relations: boolean }): Promise<unknown>;
  }
  export class Package {
    static load(descriptor: string, options: { strict: boolean }): Promise<Package>;
    errors: Error[];
    resources: Resource[];
  }
}
