import type { NextConfig } from 'next';

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  devIndicators: false,
  // No image is processed at run time: see stubs/sharp.
  images: { unoptimized: true },
  // Pages are static shells, the same for every part: the browser reads the address.
  rewrites: async () => [{ source: '/bench/:id', destination: '/bench' }],
};

export default config;
