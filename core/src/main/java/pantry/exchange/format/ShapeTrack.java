package pantry.exchange.format;

import java.util.List;

/**
 * The weights of a mesh's shapes over time.
 *
 * @param shapes their names, see {@link pantry.motion.BlendShapes}
 * @param curve values with a weight for each of them
 */
public record ShapeTrack(List<String> shapes, KeyCurve curve) {}
