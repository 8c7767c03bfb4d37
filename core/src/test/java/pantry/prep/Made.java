package pantry.prep;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javax.imageio.ImageIO;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelWriter;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.prep.inspect.Finding;
import pantry.prep.inspect.Inspection;
import pantry.prep.inspect.RuleSet;
import pantry.testing.Workshop;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.Xforms;
import pantry.workpiece.Tidying;
import pantry.workpiece.Workpiece;

/** Makes small USD files to be inspected: a mast of one steel tube that stands as it should, and what is added to it. */
public final class Made {
    public static final SdfPath ROOT = SdfPath.of("/Mast");

    public final Layer layer;
    public final PrimSpec root;
    private final Path file;

    public Made(Path folder) {
        file = folder.resolve("Mast.usda");
        layer = Layer.inMetres(file, "Mast");
        root = layer.root().define("Xform", "Mast");
    }

    /** The mast, without any flaw. */
    public static Made mast(Path folder) {
        Made made = new Made(folder);
        PrimSpec materials = made.root.define("Scope", "Materials");
        PrimSpec steel = materials.define("Material", "Steel");
        surface(steel, ROOT.child("Materials").child("Steel"), 0.8);
        made.bound(made.mesh("Tube", Shapes.cylinder(0.1, 2, 24)), "Steel");
        return made;
    }

    public static PrimSpec surface(PrimSpec material, SdfPath path, double grey) {
        PrimSpec shader = material.define("Shader", "Surface");
        shader.set("token", "info:id", new Value.Token("UsdPreviewSurface")).setUniform(true);
        shader.set("color3f", "inputs:diffuseColor", new Value.Tuple(grey, grey, grey));
        material.put(new pantry.usd.AttributeSpec("outputs:surface", "token")
                .setConnections(pantry.usd.ListEdit.explicit(
                        List.of(path.child("Surface").property("outputs:surface")))));
        return shader;
    }

    public PrimSpec material(String name, double grey) {
        PrimSpec material = root.child("Materials").orElseThrow().define("Material", name);
        surface(material, ROOT.child("Materials").child(name), grey);
        return material;
    }

    public PrimSpec mesh(String name, Mesh mesh) {
        return mesh(root, name, mesh, Matrix4.IDENTITY);
    }

    public PrimSpec mesh(String name, Mesh mesh, Matrix4 local) {
        return mesh(root, name, mesh, local);
    }

    public static PrimSpec mesh(PrimSpec parent, String name, Mesh mesh, Matrix4 local) {
        PrimSpec prim = parent.define("Mesh", name);
        UsdModelWriter.writeSurface(prim, mesh);
        Xforms.setMatrix(prim, local);
        return prim;
    }

    public PrimSpec bound(PrimSpec prim, String material) {
        Tidying.bind(prim, ROOT.child("Materials").child(material));
        return prim;
    }

    /** A square picture beside the layer; very large ones are 16 pixels high. */
    public static Path image(Made made, String name, int side, boolean clear) {
        Path file = made.layer.file().orElseThrow().resolveSibling(name);
        BufferedImage image = side > 4096
                ? new BufferedImage(side, 16, BufferedImage.TYPE_BYTE_GRAY)
                : new BufferedImage(side, side, clear ? BufferedImage.TYPE_INT_ARGB : BufferedImage.TYPE_INT_RGB);
        try {
            java.nio.file.Files.createDirectories(file.getParent());
            ImageIO.write(image, "png", file.toFile());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return file;
    }

    /** Lets a material read an image, which drives an input of its surface where one is named. */
    public static void texture(Made made, String material, String file, String input, String space) {
        PrimSpec prim = made.root
                .child("Materials")
                .flatMap(scope -> scope.child(material))
                .orElseThrow();
        SdfPath path = Made.ROOT.child("Materials").child(material);
        PrimSpec image = prim.define("Shader", "Image");
        image.set("token", "info:id", new Value.Token("UsdUVTexture")).setUniform(true);
        image.set("asset", "inputs:file", new Value.Asset(file));
        image.set("token", "inputs:sourceColorSpace", new Value.Token(space));
        if (!input.isEmpty()) {
            prim.child("Surface")
                    .orElseThrow()
                    .put(new AttributeSpec("inputs:" + input, input.equals("roughness") ? "float" : "color3f")
                            .setConnections(ListEdit.explicit(List.of(path.child("Image")
                                    .property(input.equals("roughness") ? "outputs:g" : "outputs:rgb")))));
        }
    }

    public Workpiece open() {
        LayerFiles.write(layer, file);
        return Workpiece.of(file, sources(), Progress.NONE);
    }

    public static Workpiece.Sources sources() {
        return new Workpiece.Sources(
                new pantry.exchange.FileReaders(new pantry.exchange.worker.ForeignReader(
                        new pantry.exchange.worker.WorkerLimits(java.time.Duration.ofSeconds(60), 2L << 30),
                        Path.of(System.getProperty("java.io.tmpdir")))),
                new LayerCache(),
                new MeshCache());
    }

    public static List<Finding> inspect(Workpiece piece) {
        return inspect(piece, RuleSet.USUAL);
    }

    public static List<Finding> inspect(Workpiece piece, RuleSet rules) {
        return Inspection.of(piece, rules, Optional.empty(), Progress.NONE).findings();
    }

    public static List<String> rules(List<Finding> findings) {
        return findings.stream().map(finding -> finding.rule().id()).toList();
    }

    public static Workpiece.Sources sources(Workshop workshop) {
        return new Workpiece.Sources(workshop.readers(), workshop.layers(), new MeshCache());
    }
}
