/** Packages that ship without types of their own. */
declare module 'gltf-validator' {
  const validator: {
    validateBytes(bytes: Uint8Array): Promise<{ issues: { messages: Array<{ severity: number; message: string }> } }>;
  };
  export default validator;
}
