const swc = {
  '^.+\\.ts$': [
    '<rootDir>/tools/jestTransform.js',
    {
      jsc: {
        parser: { syntax: 'typescript', decorators: true },
        transform: { legacyDecorator: true, decoratorMetadata: true },
        target: 'es2022',
      },
      module: { type: 'commonjs' },
    },
  ],
};

/** @type {import('jest').Config} */
module.exports = {
  // Checks run side by side: what takes a second alone may wait for its turn.
  testTimeout: 30_000,
  projects: [
    {
      displayName: 'core',
      testEnvironment: '<rootDir>/tools/jestEnvironment.js',
      testMatch: ['<rootDir>/packages/core/tests/**/*.test.ts'],
      setupFiles: ['<rootDir>/packages/core/tests/setup.ts'],
      transform: { ...swc, '^.+\\.m?js$': swc['^.+\\.ts$'] },
      transformIgnorePatterns: [
        '/node_modules/(?!(@true-nib|fit-curve|fast-png|iobuffer|fractional-indexing|perfect-freehand|@cityssm|three|flatbush|flatqueue|earcut|@gltf-transform|property-graph)/)',
      ],
      // Its cameras alone, without what draws.
      moduleNameMapper: {
        '^three$': '<rootDir>/node_modules/three/build/three.core.js',
        '^(d3-contour|d3-array)$': '<rootDir>/node_modules/$1/dist/$1.js',
      },
    },
    {
      displayName: 'server',
      testEnvironment: '<rootDir>/tools/jestEnvironment.js',
      testMatch: ['<rootDir>/apps/server/tests/**/*.test.ts'],
      transform: { ...swc, '^.+\\.js$': swc['^.+\\.ts$'] },
      transformIgnorePatterns: [
        '/node_modules/(?!(@true-nib|fractional-indexing|flatbush|flatqueue|p-queue|p-timeout|eventemitter3)/)',
      ],
    },
    {
      displayName: 'web',
      preset: 'jest-expo/ios',
      rootDir: 'apps/web',
      testEnvironment: '<rootDir>/../../tools/jestEnvironment.js',
      testEnvironmentOptions: { customExportConditions: ['require', 'react-native'] },
      testMatch: ['<rootDir>/tests/**/*.test.{ts,tsx}'],
      setupFiles: ['<rootDir>/tests/setup.js'],
      moduleNameMapper: {
        '\\.css$': '<rootDir>/tests/empty.js',
        // Jest compiles no .mjs; these packages ship the same as CommonJS.
        '^(d3-contour|d3-array)$': '<rootDir>/../../node_modules/$1/dist/$1.js',
        // What this package names for React Native is not in it.
        '^lru-cache$': '<rootDir>/node_modules/lru-cache/dist/commonjs/index.min.js',
        '^lucide-react-native/icons/(.*)$': '<rootDir>/../../node_modules/lucide-react-native/dist/cjs/icons/$1.js',
      },
      transformIgnorePatterns: [
        '/node_modules/(?!(.pnpm|react-native|@react-native|@react-native-community|expo|@expo|@expo-google-fonts|react-navigation|@react-navigation|native-base|nativewind|react-native-css-interop|lucide-react-native|fractional-indexing|fast-xml-parser|idb|rbush|flatbush|flatqueue|quickselect|tinykeys|msgpackr|fflate|p-queue|p-timeout|eventemitter3|lru-cache|react-error-boundary|standard-navigation|wcag-contrast|relative-luminance|@true-nib))',
      ],
    },
  ],
};
