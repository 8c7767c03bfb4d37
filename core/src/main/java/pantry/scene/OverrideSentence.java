package pantry.scene;

import pantry.usd.SdfPath;

/**
 * What a scene says otherwise of one part of a placement, in words for a person, such as {@code Cab moved up by 0.8 m}.
 *
 * @param part of which it is said
 */
public record OverrideSentence(SdfPath part, String sentence) {}
