import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api } from '../../app/api';
import { tellFailure } from '../../parts/tell';

/** Sends a file to a source and goes to where it is looked at. */
export function useUpload(): {
  share: number | null;
  send: (source: string, file: File) => Promise<void>;
} {
  const navigate = useNavigate();
  const [share, setShare] = useState<number | null>(null);
  const send = async (source: string, file: File) => {
    setShare(0);
    try {
      const look = await api.sendFile(source, file, setShare);
      await navigate(`/sources/${source}/files/${look.import.id}`);
    } catch (error) {
      tellFailure(error);
    } finally {
      setShare(null);
    }
  };
  return { share, send };
}
