/** A stylesheet as text, where the bundler takes it so. */
declare module "*.css" {
  const text: string;
  export default text;
}
