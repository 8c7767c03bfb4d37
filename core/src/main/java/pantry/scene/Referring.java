package pantry.scene;

import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;
import pantry.base.math.Matrix4;
import pantry.exchange.usd.UsdModelReader;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.LayerOffset;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.schema.TransformComponents;
import pantry.usd.schema.Xforms;

/**
 * Refers to files that are not of a library as they are. Their unit, their up axis and the transform of what is referred to
 * become a transform behind the placement's own, which would otherwise take its place; what has a type of its own keeps it.
 */
final class Referring {
    /** The type of what things stand below that hang on joints: nothing else is moved by them. */
    private static final String MOVING = "SkelRoot";

    /** Types of what only holds others: a placement of them is an Xform, or moves as what it shows. */
    private static final Set<String> HOLDERS = Set.of("", "Scope", "Xform", MOVING);

    private static final String CORRECTION = "unit";

    private final LayerCache layers;
    private final Path folder;

    /** @param folder that references are told from */
    Referring(LayerCache layers, Path folder) {
        this.layers = layers;
        this.folder = folder;
    }

    /**
     * A placement of a file, or of one prim of it.
     *
     * @param part stands with its pivot where the placement does; the whole file stands as it stands there
     * @throws SceneException where the file has no such prim
     */
    PrimSpec to(Path target, Optional<SdfPath> part, String name, TransformComponents placing) {
        Layer foreign = layers.open(target);
        SdfPath at = part.or(foreign::defaultPrimPath)
                .orElseThrow(() -> new SceneException(
                        target,
                        "has no default prim, so that it cannot be referenced as a whole; name one of its prims"));
        Prim shown = Stage.open(foreign, layers)
                .prim(at)
                .orElseThrow(() -> new SceneException(target, "there is no <" + at + ">"));
        boolean holder = HOLDERS.contains(shown.typeName());
        PrimSpec prim = new PrimSpec(Specifier.DEF, holder ? holderOf(shown.typeName()) : "", name);
        prim.setReferences(new Reference(AssetPaths.relative(folder, target), part, LayerOffset.NONE));
        if (holder) {
            prim.metadata().put("instanceable", new Value.Bool(true));
        }
        placing.write(prim);
        Matrix4 own = part.isPresent() ? turned(Xforms.world(shown)) : Xforms.local(shown);
        Matrix4 correction = own.times(UsdModelReader.toMetres(foreign));
        if (!correction.equals(Matrix4.IDENTITY)) {
            Xforms.appendMatrix(prim, CORRECTION, correction);
        }
        return prim;
    }

    private static String holderOf(String shown) {
        return shown.equals(MOVING) ? MOVING : "Xform";
    }

    /** The type of a placement that shows the default prim of a layer. */
    static String typeFor(LayerCache layers, Path target) {
        Layer layer = layers.open(target.toAbsolutePath().normalize());
        return holderOf(layer.defaultPrimPath()
                .flatMap(path -> Stage.open(layer, layers).prim(path))
                .map(Prim::typeName)
                .orElse(""));
    }

    /** Takes away what a placement has for the file that it refers to, before it refers to an asset instead. */
    static void forget(PrimSpec prim) {
        Xforms.removeMatrix(prim, CORRECTION);
        if (prim.typeName().isEmpty()) {
            prim.setTypeName("Xform");
            prim.metadata().put("instanceable", new Value.Bool(true));
        }
    }

    private static Matrix4 turned(Matrix4 world) {
        return world.times(Matrix4.translation(world.translationPart().times(-1)));
    }
}
