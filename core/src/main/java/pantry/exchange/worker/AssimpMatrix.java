package pantry.exchange.worker;

import org.lwjgl.assimp.AIMatrix4x4;

/** Reads Assimp's matrices. Runs in the worker only. */
final class AssimpMatrix {
    private AssimpMatrix() {}

    /** Sixteen numbers, row by row, for row vectors. */
    static double[] rows(AIMatrix4x4 m) {
        // Assimp's vectors are columns; transposing gives the form for rows.
        return new double[] {
            m.a1(), m.b1(), m.c1(), m.d1(),
            m.a2(), m.b2(), m.c2(), m.d2(),
            m.a3(), m.b3(), m.c3(), m.d3(),
            m.a4(), m.b4(), m.c4(), m.d4()
        };
    }
}
