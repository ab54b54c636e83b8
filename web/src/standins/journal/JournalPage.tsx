import { useCallback, useEffect, useState } from 'react';
import { localise } from '../../parts/localise';

interface Post {
  guid: string;
  title: string;
  summary: string;
  image: string | null;
  author: string;
  category: string | null;
  published_at: string;
}
interface Feed {
  id: string;
  title: string;
  posts: Post[];
}

const FORMATS = [
  ['rss.xml', 'RSS 2.0'],
  ['atom.xml', 'Atom'],
  ['feed.json', 'JSON Feed'],
] as const;
const EMPTY = { title: '', words: '', author: 'Hester Lovage', category: '' };
const day = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long' });

/** The stand-in journal: posts are written here and read by feeds at addresses that stay. */
export function JournalPage() {
  const [feeds, setFeeds] = useState<Feed[]>([]);
  const [into, setInto] = useState('furrow');
  const [post, setPost] = useState(EMPTY);
  const [says, setSays] = useState('');
  const load = useCallback(async () => {
    const answer = await fetch('/journal/feeds.json');
    setFeeds(((await answer.json()) as { feeds: Feed[] }).feeds);
  }, []);
  useEffect(() => {
    load().catch(() => setSays('The journal cannot be read.'));
  }, [load]);
  const publish = async () => {
    const answer = await fetch(`/journal/${into}/posts`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(post),
    });
    if (!answer.ok) {
      const { error } = (await answer.json()) as { error?: { message: string } };
      setSays(error?.message ?? 'It was not published.');
      return;
    }
    setSays(`“${post.title}” is published. Carafe reads it when it fetches the feed next.`);
    setPost(EMPTY);
    await load();
  };
  return (
    <main className="journal">
      <header>
        <h1>The Quillmoss journal</h1>
        <p>A stand-in journal, whose feeds Carafe fetches.</p>
      </header>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          publish().catch(() => setSays('It was not published: the server does not answer.'));
        }}
      >
        <h2>Write a post</h2>
        <label>
          For
          <select value={into} onChange={({ currentTarget }) => setInto(currentTarget.value)}>
            {feeds.map(({ id, title }) => (
              <option key={id} value={id}>
                {title}
              </option>
            ))}
          </select>
        </label>
        <label>
          Title
          <input
            required
            value={post.title}
            onChange={({ currentTarget }) => setPost({ ...post, title: currentTarget.value })}
          />
        </label>
        <label>
          Words
          <textarea
            required
            rows={5}
            value={post.words}
            onChange={({ currentTarget }) => setPost({ ...post, words: currentTarget.value })}
          />
        </label>
        <label>
          Author
          <input
            value={post.author}
            onChange={({ currentTarget }) => setPost({ ...post, author: currentTarget.value })}
          />
        </label>
        <label>
          Topic
          <input
            value={post.category}
            onChange={({ currentTarget }) => setPost({ ...post, category: currentTarget.value })}
          />
        </label>
        <button type="submit">Publish</button>
        <p role="status">{says}</p>
      </form>
      <div className="journal-feeds">
        {feeds.map(({ id, title, posts }) => (
          <section key={id} aria-label={title}>
            <h2>{title}</h2>
            <p className="journal-formats">
              {FORMATS.map(([file, name]) => (
                <a key={file} href={`/journal/${id}/${file}`}>
                  {name}
                </a>
              ))}
            </p>
            {posts.map((one) => (
              <article key={one.guid}>
                {one.image && <img src={localise(one.image)} alt="" loading="lazy" />}
                <div>
                  <h3>{one.title}</h3>
                  <p>{one.summary}</p>
                  <small>
                    {one.author}, {day.format(new Date(one.published_at))}
                  </small>
                </div>
              </article>
            ))}
          </section>
        ))}
      </div>
    </main>
  );
}
