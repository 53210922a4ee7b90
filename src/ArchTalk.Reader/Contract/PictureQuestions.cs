using ArchTalk.Core.Boards.Items;

namespace ArchTalk.Reader.Contract;

/// <summary>Writes the copies of a picture, from small to large.</summary>
public sealed record CopyPicture(string File, string Folder) : Question<PictureFile[]>;

/// <summary>Writes a picture that lies on a board, as WebP.</summary>
public sealed record MakeItemPicture(string File, string Target) : Question<PictureFile>;

/// <summary>Writes an SVG picture anew with nothing in it but what draws.</summary>
public sealed record CleanSvg(string File, string Clean) : Question<bool>;

/// <summary>Writes the copies of a picture that shows two beside each other.</summary>
public sealed record JoinPictures(string Left, string Right, string Folder) : Question<PictureFile[]>;

/// <summary>Writes a copy of a board's picture with nothing to be seen where covers lie; answers its width in pixels.</summary>
public sealed record CoverPicture(string File, CoveredBox[] Boxes, string Target) : Question<int>;

/// <summary>Writes a picture in grey at the size at which words are read best; answers its width in pixels.</summary>
public sealed record DrawForReading(string File, string Target) : Question<int>;

/// <summary>Writes a picture's colours, three bytes for each pixel, row by row; answers its width in pixels.</summary>
public sealed record ReadPixels(string File, string Target) : Question<int>;
