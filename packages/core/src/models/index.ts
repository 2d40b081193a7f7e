export * from './gltf';
export * from './obj';
