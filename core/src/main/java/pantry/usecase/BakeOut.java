package pantry.usecase;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.IoProblems;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.Scratch;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.model.Axis;
import pantry.model.Material;
import pantry.model.Model;
import pantry.shading.NetworkBaker;
import pantry.workbench.Workbench;

/** Makes images, of a size that is chosen, of the materials of a file that are made of nodes. */
public final class BakeOut {
    private BakeOut() {}

    /**
     * What was made.
     *
     * @param materials the names of those that were made of nodes
     * @param images how many images that took
     * @param left what could not be evaluated, what the format cannot hold, and what was missing
     */
    public record Result(List<String> materials, int images, List<String> left) {}

    /**
     * Writes a file with its materials' networks as images.
     *
     * @param file that can be received, or a version's layer
     * @param size as wide and high as images are made, pixels
     * @param to the new file, in the format of its ending, with the images beside it
     * @throws PantryException where it cannot be read or written, or no material of it is made of nodes
     */
    public static Result bake(Workbench workbench, Path file, int size, Path to, Progress progress) {
        Imported read = workbench.readers().read(file, progress);
        Model model = read.model()
                .reframed(read.up().orElse(Axis.Y).toMetres(read.unit().orElse(1.0)));
        Map<Material, Material> made = new HashMap<>();
        Set<String> told = new LinkedHashSet<>();
        Set<Path> images = new LinkedHashSet<>();
        try {
            Path folder = Scratch.folder("baked");
            for (Material material : model.materials()) {
                if (material.network().isPresent()) {
                    progress.step("making the images of " + material.title(), -1);
                    NetworkBaker.Baked baked = NetworkBaker.bake(
                            material.name(), material.network().get(), size, Long.MAX_VALUE, () -> folder, progress);
                    made.put(material, baked.material());
                    told.addAll(baked.told());
                    baked.material().textures().values().stream()
                            .flatMap(texture -> texture.file().stream())
                            .filter(image -> image.startsWith(folder))
                            .forEach(images::add);
                }
            }
        } catch (IOException e) {
            throw new PantryException(file, "its images cannot be written: " + IoProblems.describe(e));
        }
        if (made.isEmpty()) {
            throw new PantryException(file, "has no material that is made of nodes");
        }
        Model baked = model.withMaterials(material -> made.getOrDefault(material, material));
        List<String> left = new ArrayList<>();
        told.forEach(what -> left.add("not shown: " + what));
        left.addAll(ModelWriters.write(baked, to, new ModelWriters.Options(1, "metres", Optional.of(file)))
                .left());
        return new Result(made.keySet().stream().map(Material::title).sorted().toList(), images.size(), left);
    }
}
