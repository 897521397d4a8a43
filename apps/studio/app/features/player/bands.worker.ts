import { joinBands, type BandShare } from '@dusk/compositor'

// Takes half of each large kernel off the viewer's thread. It never comes back from this.
self.onmessage = ({ data }: MessageEvent<BandShare>) => void joinBands(data)
