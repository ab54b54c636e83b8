import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ENDPOINTS } from '@carafe/contract';
import { send as sendFile } from '../../app/ask';
import { notifyFailure } from '../../parts/notify';

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
      const asked = { params: { id: source }, query: { name: file.name } };
      const look = await sendFile(ENDPOINTS.uploadFile, asked, file, setShare);
      await navigate(`/sources/${source}/files/${look.import.id}`);
    } catch (error) {
      notifyFailure(error);
    } finally {
      setShare(null);
    }
  };
  return { share, send };
}
