import { ArrowLeft } from 'lucide-react';
import { Link, useLocation } from 'react-router';
import { useAppDispatch, useAppSelector } from './store.ts';
import { cameBack } from './wayBackSlice.ts';

/** Leads back to the screen that somebody left to settle something. @param within where it may lie */
export function WayBackLink({ within }: { readonly within: string }) {
  const way = useAppSelector(({ wayBack }) => wayBack.way);
  const { pathname } = useLocation();
  const dispatch = useAppDispatch();
  if (way === null || !way.to.startsWith(within) || pathname === way.to) return null;
  return (
    <Link to={way.to} className="btn btn-plain way-back" onClick={() => dispatch(cameBack())}>
      <ArrowLeft size={14} aria-hidden /> {way.name}
    </Link>
  );
}
