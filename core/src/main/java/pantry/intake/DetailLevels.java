package pantry.intake;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.exchange.format.FileSeries;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Simplification;
import pantry.model.Model;
import pantry.usd.AttributeSpec;
import pantry.usd.PrimSpec;
import pantry.usd.Specifier;
import pantry.usd.Value;

/**
 * Coarser levels of detail as a variant set of the asset's root: {@code full} as it is, then half, a quarter and an
 * eighth of the triangles of each mesh that has more than a few. OpenUSD has no schema for levels of detail; a variant set is common practice.
 */
public final class DetailLevels {
    /** The variant set. */
    public static final String SET = FileSeries.DETAIL;

    private static final String FULL = "full";
    private static final Map<String, Double> SHARES = shares();
    private static final Set<String> GEOMETRY =
            Set.of("points", "faceVertexCounts", "faceVertexIndices", "normals", "orientation");

    /** Smaller meshes are left as they are. */
    private static final int WORTH_IT = 200;

    private DetailLevels() {}

    private static Map<String, Double> shares() {
        Map<String, Double> shares = new LinkedHashMap<>();
        shares.put("half", 0.5);
        shares.put("quarter", 0.25);
        shares.put("eighth", 0.125);
        return shares;
    }

    /**
     * What a model's coarser levels will be, by their names, the finest first; none where it is one mesh of several
     * materials, which is left as it is.
     */
    public static Map<String, Preparation.Reduced> of(Model model, PartsMode parts) {
        boolean subsets = parts == PartsMode.SINGLE
                && model.roots().stream().anyMatch(node -> node.parts().size() > 1);
        Map<String, Preparation.Reduced> levels = new LinkedHashMap<>();
        if (!subsets) {
            SHARES.forEach((level, share) ->
                    levels.put(level, Preparation.reduced(model, share, mesh -> mesh.triangleCount() >= WORTH_IT)));
        }
        return levels;
    }

    /** Moves the meshes' numbers into the variants: what is said outside of them is stronger. */
    public static void write(PrimSpec root) {
        List<String> sets = new ArrayList<>(root.variantSets().keySet());
        sets.add(SET);
        root.setVariantSetNames(sets.toArray(String[]::new));
        root.select(SET, FULL);
        SHARES.forEach((level, share) -> {
            PrimSpec contents = root.variant(SET, level).contents();
            for (PrimSpec child : List.copyOf(root.children())) {
                leveled(child, prim -> coarse(prim, share)).ifPresent(contents::add);
            }
        });
        PrimSpec full = root.variant(SET, FULL).contents();
        for (PrimSpec child : List.copyOf(root.children())) {
            leveled(child, DetailLevels::moved).ifPresent(full::add);
        }
    }

    private interface Level {
        /** What a mesh says at a level. */
        PrimSpec of(PrimSpec mesh);
    }

    /** What a prim and those below it say at a level; empty where there is nothing worth it. */
    private static Optional<PrimSpec> leveled(PrimSpec prim, Level level) {
        boolean subsets =
                prim.children().stream().anyMatch(child -> child.typeName().equals("GeomSubset"));
        boolean worthIt = prim.typeName().equals("Mesh")
                && !subsets
                && mesh(prim).filter(mesh -> mesh.triangleCount() >= WORTH_IT).isPresent();
        PrimSpec over = worthIt ? level.of(prim) : new PrimSpec(Specifier.OVER, "", prim.name());
        for (PrimSpec child : List.copyOf(prim.children())) {
            leveled(child, level).ifPresent(over::add);
        }
        return worthIt || !over.children().isEmpty() ? Optional.of(over) : Optional.empty();
    }

    private static PrimSpec moved(PrimSpec prim) {
        PrimSpec over = new PrimSpec(Specifier.OVER, "", prim.name());
        for (String name : List.copyOf(prim.propertyNames())) {
            boolean geometry = GEOMETRY.contains(name) || name.startsWith("primvars:");
            if (geometry) {
                prim.removeProperty(name).ifPresent(over::put);
            }
        }
        return over;
    }

    private static PrimSpec coarse(PrimSpec prim, double share) {
        PrimSpec over = new PrimSpec(Specifier.OVER, "", prim.name());
        Mesh coarse = Simplification.of(mesh(prim).orElseThrow(), share).mesh();
        over.set("point3f[]", "points", new Value.Floats(coarse.points(), 3));
        over.set("int[]", "faceVertexCounts", new Value.Ints(coarse.faceSizes(), 1));
        over.set("int[]", "faceVertexIndices", new Value.Ints(coarse.corners(), 1));
        coarse.normals().ifPresent(normals -> channel(over, "normal3f[]", "normals", normals));
        coarse.uvs().ifPresent(uvs -> channel(over, "texCoord2f[]", "primvars:st", uvs));
        Channel colours = coarse.primvars().get(Mesh.COLOUR);
        if (colours != null) {
            channel(over, "color3f[]", "primvars:" + Mesh.COLOUR, colours);
        }
        return over;
    }

    private static void channel(PrimSpec prim, String type, String name, Channel channel) {
        prim.set(type, name, new Value.Floats(channel.data(), channel.width()))
                .metadata()
                .put("interpolation", new Value.Token(channel.per().interpolation()));
    }

    private static Optional<Mesh> mesh(PrimSpec prim) {
        Map<String, Channel> more = new LinkedHashMap<>();
        channel(prim, "primvars:" + Mesh.COLOUR).ifPresent(colours -> more.put(Mesh.COLOUR, colours));
        boolean leftHanded = prim.attribute("orientation")
                .flatMap(AttributeSpec::value)
                .filter(new Value.Token("leftHanded")::equals)
                .isPresent();
        return value(prim, "points").flatMap(points -> value(prim, "faceVertexCounts")
                .flatMap(sizes -> value(prim, "faceVertexIndices").map(corners -> new Mesh(
                                ((Value.Floats) points).data(),
                                ((Value.Ints) sizes).data(),
                                ((Value.Ints) corners).data(),
                                channel(prim, "normals").orElse(null),
                                channel(prim, "primvars:st").orElse(null))
                        .withLeftHanded(leftHanded)
                        .withPrimvars(more)
                        .withDoubleSided(prim.attribute("doubleSided")
                                .flatMap(AttributeSpec::value)
                                .filter(new Value.Bool(true)::equals)
                                .isPresent()))));
    }

    private static Optional<Value> value(PrimSpec prim, String name) {
        return prim.attribute(name).flatMap(AttributeSpec::value);
    }

    private static Optional<Channel> channel(PrimSpec prim, String name) {
        return prim.attribute(name)
                .filter(attribute -> attribute.value().orElse(null) instanceof Value.Floats)
                .map(attribute -> {
                    Value.Floats data = (Value.Floats) attribute.value().orElseThrow();
                    String per = attribute.metadata().get("interpolation") instanceof Value.Token(String token)
                            ? token
                            : "vertex";
                    return new Channel(data.data(), data.width(), Channel.Per.of(per));
                });
    }
}
