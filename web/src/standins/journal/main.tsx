import '@fontsource-variable/hanken-grotesk';
import './journal.css';
import { createRoot } from 'react-dom/client';
import { JournalPage } from './JournalPage';

const root = document.getElementById('root');
if (!root) throw new Error('The page cannot start: its root element is missing.');
createRoot(root).render(<JournalPage />);
