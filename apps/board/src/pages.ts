import { clock, writeCues, type Cue } from '@dusk/interchange'
import { MOODS, SHAPES, type Conduct } from './conduct'
import type { Shelved } from './shelf'

const SIGNS: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' }
/** Text as it stands in HTML. */
const safe = (text: string | number) => String(text).replace(/[&<>"']/g, (sign) => SIGNS[sign]!)

const STYLE = `
:root { color-scheme: light; font: 16px/1.5 system-ui, sans-serif; --ink: #22302f; --paper: #f3efe4; --line: #cbc3ae; }
body { margin: 0; background: var(--paper); color: var(--ink); }
main { max-width: 960px; margin: 0 auto; padding: 28px 24px 60px; }
h1 { font-size: 28px; margin: 0 0 4px; } h2 { font-size: 18px; margin: 0; } p { margin: 6px 0; }
a { color: inherit; } .quiet { color: #5d665f; font-size: 14px; }
ul.films { list-style: none; margin: 28px 0; padding: 0; display: grid; gap: 20px;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr)); }
ul.films img, ul.films .none
  { width: 100%; aspect-ratio: 16/9; object-fit: cover; background: #d9d2bf; display: block; }
ul.films li > a { text-decoration: none; display: block; background: #fffdf6; border: 1px solid var(--line); }
ul.films .words { padding: 10px 12px 12px; }
video { width: 100%; max-height: 70vh; background: #111; display: block; margin: 16px 0; }
form.conduct { border: 1px solid var(--line); background: #fffdf6; padding: 14px 16px; display: flex; flex-wrap: wrap;
  gap: 14px; align-items: end; margin-top: 20px; }
form { font-size: 14px; } label { display: grid; gap: 3px; } input, select, button { font: inherit; padding: 4px 8px; }
input { width: 90px; } ol.parts { padding: 0; list-style: none; } ol.parts li { display: flex; gap: 12px; }
.time { font-variant-numeric: tabular-nums; min-width: 56px; } .tags span { border: 1px solid var(--line);
  padding: 1px 8px; margin-right: 6px; font-size: 14px; } .told { white-space: pre-wrap; }
`

function page(title: string, body: string): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${safe(title)}</title>
<meta name="viewport" content="width=device-width"><style>${STYLE}</style></head>
<body><main>${body}</main></body></html>`
}

const options = (all: Record<string, string>, chosen: string) =>
  Object.entries(all)
    .map(([id, words]) => `<option value="${id}"${id === chosen ? ' selected' : ''}>${safe(words)}</option>`)
    .join('')

/** The board itself: what was posted, and how it behaves. */
export function boardPage(posts: readonly Shelved[], conduct: Conduct): string {
  const films = posts
    .map(
      (post) =>
        `<li><a href="/posts/${post.id}">${
          post.thumbnail ? `<img src="/posts/${post.id}/thumbnail" alt="">` : '<div class="none"></div>'
        }<div class="words"><h2>${safe(post.title)}</h2><p class="quiet">${clock(post.file.seconds)} · ${safe(
          post.shown!.slice(0, 10),
        )}</p></div></a></li>`,
    )
    .join('')
  const shapes = Object.fromEntries(Object.entries(SHAPES).map(([id, { words }]) => [id, words]))
  return page(
    'Practice board',
    `<h1>Practice board</h1>
<p class="quiet">A place to try posting on. It is on this machine only; whoever uses this machine can see it.</p>
${posts.length > 0 ? `<ul class="films">${films}</ul>` : '<p style="margin:40px 0">Nothing was posted yet.</p>'}
<form class="conduct" method="post" action="/conduct" aria-label="How the board behaves">
<label>It behaves so<select name="mood">${options(MOODS, conduct.mood)}</select></label>
<label>MB at most<input name="megabytes" inputmode="decimal" value="${conduct.megabytes}"></label>
<label>Minutes at most<input name="minutes" inputmode="decimal" value="${conduct.minutes}"></label>
<label>Takes<select name="shape">${options(shapes, conduct.shape)}</select></label>
<button>Set</button></form>`,
  )
}

/** The page of one film. */
export function filmPage(post: Shelved): string {
  const { id, title, description, tags, chapters, captions, file } = post
  const captioned = captions
    ? `<track kind="captions" src="/posts/${id}/captions" ` +
      `srclang="${safe(captions.language)}" label="Captions" default>`
    : ''
  const parts = chapters.length > 0 ? `<track kind="chapters" src="/posts/${id}/chapters" srclang="en">` : ''
  const rows = chapters
    .map(({ at, name }) => `<li><a class="time" href="#t=${at}">${clock(at)}</a><span>${safe(name)}</span></li>`)
    .join('')
  return page(
    title,
    `<p><a href="/">Practice board</a></p>
<video controls preload="metadata"${post.thumbnail ? ` poster="/posts/${id}/thumbnail"` : ''} src="/posts/${id}/film">
${captioned}${parts}</video>
<h1>${safe(title)}</h1>
<p class="quiet">${clock(file.seconds)} · ${file.width} × ${file.height} · posted ${safe(post.shown!.slice(0, 10))}</p>
<p class="told">${safe(description)}</p>
${tags.length > 0 ? `<p class="tags">${tags.map((tag) => `<span>${safe(tag)}</span>`).join('')}</p>` : ''}
${chapters.length > 0 ? `<h2>Chapters</h2><ol class="parts">${rows}</ol>` : ''}
<form method="post" action="/posts/${id}/remove"><button>Take it down</button></form>
<script src="/chapters.js"></script>`,
  )
}

/** Jumps to a chapter whose time is pressed. */
export const CHAPTER_SCRIPT = `addEventListener('hashchange', () => {
  const at = /^#t=([\\d.]+)$/.exec(location.hash)
  if (at) document.querySelector('video').currentTime = Number(at[1])
})
`

/** Chapters as a WebVTT file of its own kind. */
export function chapterCues({ chapters, file }: Shelved): string {
  const cues: Cue[] = chapters.map(({ at, name }, i) => ({
    from: at * 1000,
    to: (chapters[i + 1]?.at ?? file.seconds) * 1000,
    text: name,
  }))
  return writeCues(cues)
}
