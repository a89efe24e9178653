import { under } from "../api/base";

interface Props {
  titleId: number;
  count: number;
  className: string;
}

/** Small frames of a title, side by side along its time; one that can't be read leaves its place empty. */
export function SmallFrames({ titleId, count, className }: Props) {
  return (
    <div className={`flex overflow-hidden ${className}`}>
      {Array.from({ length: count }, (_, number) => (
        <img
          key={number}
          src={under(`/api/shelf/titles/${titleId}/strip/${number}.jpg`)}
          alt=""
          loading="lazy"
          draggable={false}
          className="h-full min-w-0 flex-1 object-cover"
          onError={(event) => (event.currentTarget.style.visibility = "hidden")}
        />
      ))}
    </div>
  );
}
