import '@fontsource-variable/hanken-grotesk';
import './shop.css';
import { createRoot } from 'react-dom/client';
import { ShopPage } from './ShopPage';

const root = document.getElementById('root');
if (!root) throw new Error('The page cannot start: its root element is missing.');
createRoot(root).render(<ShopPage />);
