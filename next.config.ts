import type { NextConfig } from 'next';

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  devIndicators: false,
  // No image is processed at run time: see stubs/sharp.
  images: { unoptimized: true },
  // `npm test` checks them beside the build.
  typescript: { ignoreBuildErrors: process.env.TYPES_ARE_CHECKED === '1' },
  // Pages are static shells, the same for every part: the browser reads the address.
  rewrites: async () => [{ source: '/bench/:id', destination: '/bench' }],
};

export default config;
