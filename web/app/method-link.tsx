import { Link } from 'react-router';

/** Leads to what a method does, in plain words with a worked example. */
export const MethodLink = ({ name }: { name: string }) => <Link to={`/methods#${name}`}>How it works</Link>;
