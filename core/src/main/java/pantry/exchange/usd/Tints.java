package pantry.exchange.usd;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;

/**
 * Makes plain colours part of the colours of a surface's points, for UsdPreviewSurface, which shows either and does not
 * multiply them.
 */
final class Tints {
    private Tints() {}

    /** A model in which no material that shows the colours of its surface has a colour of its own. */
    static Model baked(Model model) {
        Map<List<Object>, Mesh> tinted = new HashMap<>();
        return model.withParts(part -> {
            Material material = part.material();
            boolean both = material.finish().coloured()
                    && !material.base().equals(Colour.WHITE)
                    && part.looks().isEmpty()
                    && part.mesh().primvars().containsKey(Mesh.COLOUR);
            return both
                    ? new Model.Part(
                            tinted.computeIfAbsent(
                                    List.of(part.mesh(), material.base()), key -> tinted(part.mesh(), material.base())),
                            material.withBase(Colour.WHITE))
                    : part;
        });
    }

    private static Mesh tinted(Mesh mesh, Colour by) {
        Channel colours = mesh.primvars().get(Mesh.COLOUR);
        float[] data = colours.data().clone();
        for (int i = 0; i < data.length; i += 3) {
            data[i] *= by.r();
            data[i + 1] *= by.g();
            data[i + 2] *= by.b();
        }
        return mesh.withPrimvar(Mesh.COLOUR, new Channel(data, 3, colours.per()));
    }
}
